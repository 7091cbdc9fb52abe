/** Loaded before all else: as long as the file that `FULL` names is there, no write finds room (ENOSPC). */
import fs from "node:fs";
import { syncBuiltinESMExports } from "node:module";

const flag = process.env.FULL ?? "";
const { writeSync, existsSync } = fs;
/** How long an answer holds, ms: to look at every write would take longer than the writes. */
const HOLDS_MS = 20;
let looked = 0;
let full = false;

function isFull() {
  const now = Date.now();
  if (now - looked > HOLDS_MS) {
    looked = now;
    full = existsSync(flag);
  }
  return full;
}

fs.writeSync = (fd, ...rest) => {
  if (fd > 2 && isFull()) {
    const error = new Error("ENOSPC: no space left on device, write");
    throw Object.assign(error, { code: "ENOSPC", errno: -28, syscall: "write" });
  }
  return writeSync(fd, ...rest);
};
syncBuiltinESMExports();
