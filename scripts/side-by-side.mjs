/** Commands that run at the same time. */
import { spawn } from "node:child_process";

/**
 * Runs all of them; what each says stands together when it is done.
 * @param {[words: string, command: string, ...args: string[]][]} list
 * @returns {Promise<boolean[]>} whether each ended well
 */
export const sideBySide = (list) =>
  Promise.all(
    list.map(
      ([words, command, ...args]) =>
        new Promise((done) => {
          const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"] });
          let said = "";
          for (const stream of [child.stdout, child.stderr]) {
            stream.on("data", (part) => {
              said += part;
            });
          }
          child.on("close", (code) => {
            console.log(`\n— ${words}\n${said.trim()}`);
            done(code === 0);
          });
        }),
    ),
  );
