/** Development: the same application with pages from Vite, changed as files change. */
import { createServer } from "vite";
import { readConfig } from "./config.ts";
import { listen, signInAddress, startServices } from "./start.ts";

const config = readConfig(process.env);
const vite = await createServer({ server: { middlewareMode: true } });
const progress = (line: string) => console.log(`  ${line}`);
const { seedDemo } = await import("#demo/seed.ts");
const started = await startServices(config, {
  worker: new URL("./db/worker.ts", import.meta.url),
  reader: new URL("./import/worker.ts", import.meta.url),
  maker: new URL("./jobs/making/worker.ts", import.meta.url),
  arriving: new URL("./arriving/worker.ts", import.meta.url),
  speller: new URL("./writing/spelling-worker.ts", import.meta.url),
  drawer: new URL("./images/child.ts", import.meta.url),
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
console.log(await signInAddress(started.services));
