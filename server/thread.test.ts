import { Worker } from "node:worker_threads";
import { afterEach, expect, it } from "vitest";
import { askThread } from "./thread.ts";

const threads: Worker[] = [];
afterEach(async () => {
  for (const thread of threads.splice(0)) await thread.terminate();
});

/** A thread that answers as `answerOn` does: twice as much, an error for none, and it ends for less. */
function doubling() {
  const thread = new Worker(
    `const { parentPort } = require("node:worker_threads");
     parentPort.on("message", ({ id, question }) => {
       if (question < 0) process.exit(3);
       if (question === 0) parentPort.postMessage({ id, error: new Error("none") });
       else setTimeout(() => parentPort.postMessage({ id, answer: question * 2 }), 20 / question);
     });`,
    { eval: true },
  );
  threads.push(thread);
  return askThread<number, number>(thread);
}

it("gives each who asks their own answer, in whatever order these come", async () => {
  const ask = doubling();
  expect(await Promise.all([1, 20, 5].map((n) => ask(n)))).toEqual([2, 40, 10]);
});

it("throws on what goes wrong in it, and answers others", async () => {
  const ask = doubling();
  const [wrong, right] = await Promise.allSettled([ask(0), ask(4)]);
  expect(wrong).toMatchObject({ reason: { message: "none" } });
  expect(right).toMatchObject({ value: 8 });
});

it("tells all who wait, and all who ask later, that it has ended", async () => {
  const ask = doubling();
  const waiting = [ask(1), ask(-1)];
  for (const one of waiting) await expect(one).rejects.toThrow("A thread ended with 3");
  await expect(ask(1)).rejects.toThrow("A thread ended with 3");
});
