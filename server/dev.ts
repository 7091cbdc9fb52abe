/** Development: the same application with pages from Vite, changed as files change. */
import { createServer } from "vite";
import { readConfig } from "./config.ts";
import { listen, startServices } from "./start.ts";
import { addMember, createSignInLink, listMembers } from "./store/team.ts";

const config = readConfig(process.env);
const vite = await createServer({ server: { middlewareMode: true } });
const progress = (line: string) => console.log(`  ${line}`);
const { seedDemo } = await import("#demo/seed.ts");
const started = await startServices(config, {
  worker: new URL("./db/worker.ts", import.meta.url),
  progress,
  prepare: (services) => seedDemo(services, progress),
});
const { createApp } = (await vite.ssrLoadModule(
  "/server/http/app.ts",
)) as typeof import("./http/app.ts");
const app = createApp(started.services, {
  build: () => vite.ssrLoadModule("virtual:react-router/server-build") as never,
  client: null,
});
const { default: express } = await import("express");
const outer = express();
outer.use(vite.middlewares);
outer.use(app);
await listen(outer, config);
const { sql } = started.services.database;
const now = started.services.clock.now();
const [
  member = await addMember(sql, { name: "Owner", email: "owner@localhost", role: "owner" }, now),
] = await listMembers(sql);
console.log(`${config.publicAddress}/sign-in/${await createSignInLink(sql, member.id, now)}`);
