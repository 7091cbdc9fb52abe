/** `npm run test:e2e`: the browser tests; with `--stress` while every core is busy with something else. */
import { spawn, spawnSync } from "node:child_process";
import { availableParallelism } from "node:os";

const stress = process.argv.includes("--stress");
const rest = process.argv.slice(2).filter((one) => one !== "--stress");
const busy = Array.from({ length: stress ? availableParallelism() : 0 }, () =>
  spawn(process.execPath, ["-e", "for (;;);"], { stdio: "ignore" }),
);
const { status } = spawnSync(
  "npx",
  ["vitest", "run", "--config", "e2e/vitest.config.ts", ...rest],
  { stdio: "inherit" },
);
for (const one of busy) one.kill("SIGKILL");
process.exit(status ?? 1);
