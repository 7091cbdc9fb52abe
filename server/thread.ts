/** Threads: started from an entry, and asked one thing after the other. */
import { type MessagePort, Worker } from "node:worker_threads";

/** Loads TypeScript in the thread, by the same tool that the process was started with. */
const fromSource = (entry: URL) => `
  const { register } = await import(${JSON.stringify(import.meta.resolve("tsx/esm/api"))});
  register();
  await import(${JSON.stringify(entry.href)});
`;

/**
 * `entry`: a built file, or TypeScript as it is while developing. `heap`: how large its objects may grow in all, MB; a
 * thread that needs more is ended, and fails with ERR_WORKER_OUT_OF_MEMORY. `young`: how large those may grow that
 * hardly live, MB, before they are cleared away.
 */
export function startThread(
  entry: URL,
  workerData: unknown,
  { heap, young }: { readonly heap?: number; readonly young?: number } = {},
): Worker {
  const source = entry.pathname.endsWith(".ts");
  const file = source
    ? new URL(`data:text/javascript,${encodeURIComponent(fromSource(entry))}`)
    : entry;
  return new Worker(file, {
    workerData,
    resourceLimits: {
      ...(heap && { maxOldGenerationSizeMb: heap }),
      ...(young && { maxYoungGenerationSizeMb: young }),
    },
  });
}

interface Asked<Question> {
  readonly id: number;
  readonly question: Question;
}
type Answered<Answer> = { readonly id: number } & (
  | { readonly answer: Answer }
  | { readonly error: unknown }
);

/** Answers what comes through a port, as `askThread` asks it. `gives`: what of an answer goes over without a copy. */
export function answerOn<Question, Answer>(
  port: MessagePort,
  answer: (question: Question) => Answer | Promise<Answer>,
  gives: (answer: Answer) => ArrayBuffer[] = () => [],
): void {
  port.on("message", async ({ id, question }: Asked<Question>) => {
    try {
      const answered = await answer(question);
      port.postMessage({ id, answer: answered } satisfies Answered<Answer>, gives(answered));
    } catch (error) {
      port.postMessage({ id, error } satisfies Answered<Answer>);
    }
  });
}

/** Asks a thread that answers by `answerOn`. What it throws is thrown on; so is its end, to all who wait. */
export function askThread<Question, Answer>(
  thread: Worker,
): (question: Question) => Promise<Answer> {
  const waiting = new Map<number, { ok(answer: Answer): void; fail(error: unknown): void }>();
  let asked = 0;
  let ended: Error | null = null;
  const end = (error: Error) => {
    ended ??= error;
    for (const one of waiting.values()) one.fail(ended);
    waiting.clear();
  };
  thread.on("message", (answered: Answered<Answer>) => {
    const one = waiting.get(answered.id);
    waiting.delete(answered.id);
    if ("error" in answered) one?.fail(answered.error);
    else one?.ok(answered.answer);
  });
  thread.on("error", end);
  thread.on("exit", (code) => end(new Error(`A thread ended with ${code}`)));
  return (question) =>
    new Promise((ok, fail) => {
      if (ended) return fail(ended);
      const id = ++asked;
      waiting.set(id, { ok, fail });
      thread.postMessage({ id, question } satisfies Asked<Question>);
    });
}
