/** `npm run demo`: installs what is missing, builds when the source is newer, starts with demo data. */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, readdirSync, statSync } from "node:fs";
import { join } from "node:path";

const [major, minor] = process.versions.node.split(".").map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Septima needs Node.js 20.19 or later; this is ${process.versions.node}.`);
  process.exit(1);
}

function run(words, command, args) {
  console.log(`  ${words}`);
  const result = spawnSync(command, args, { stdio: ["ignore", "ignore", "inherit"] });
  if (result.status !== 0) {
    console.error(`This did not work: ${command} ${args.join(" ")}`);
    process.exit(1);
  }
}

/** The latest change under a path, ms. */
function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name))));
}

console.log("Septima, with demo data");
const installed = "node_modules/.package-lock.json";
if (!existsSync(installed) || newest("package-lock.json") > newest(installed)) {
  run("installing packages (once)", "npm", ["ci", "--no-audit", "--no-fund"]);
}
const built = "build/server/main.js";
const sources = ["app", "core", "server", "demo", "public", "vite.config.ts", "package-lock.json"];
if (!existsSync(built) || Math.max(...sources.map(newest)) > newest(built)) {
  run("building", "npx", ["react-router", "build"]);
}
const server = spawn(process.execPath, [built, "--demo"], {
  stdio: "inherit",
  env: { ...process.env, NODE_ENV: "production" },
});
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 1));
