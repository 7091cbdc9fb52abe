/** `npm run test:quick`: types, lint and the unit tests that a change touches; against HEAD, or what is given. */
import { spawn } from "node:child_process";

const since = process.argv[2] ?? "HEAD";
const all = [
  ["npx", "tsc", "--noEmit"],
  ["npm", "run", "--silent", "lint"],
  ["npx", "vitest", "run", "--changed", since, "--passWithNoTests"],
];
const ended = await Promise.all(
  all.map(
    ([command, ...args]) =>
      new Promise((done) => {
        const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"] });
        let said = "";
        for (const stream of [child.stdout, child.stderr]) {
          stream.on("data", (part) => {
            said += part;
          });
        }
        child.on("close", (code) => {
          console.log(`\n— ${[command, ...args].join(" ")}\n${said.trim()}`);
          done(code === 0);
        });
      }),
  ),
);
process.exit(ended.every(Boolean) ? 0 : 1);
