/** Loaded before the application by tests that let time go by: at SIGUSR2 its clock moves on by ten minutes. */
import { isMainThread } from "node:worker_threads";

const STEP = 600_000;
const Real = Date;
let ahead = 0;
const now = () => Real.now() + ahead;
if (isMainThread) {
  process.on("SIGUSR2", () => {
    ahead += STEP;
  });
  globalThis.Date = new Proxy(Real, {
    construct: (_, given) => (given.length === 0 ? new Real(now()) : new Real(...given)),
    get: (of, name) => (name === "now" ? now : Reflect.get(of, name)),
  });
}
