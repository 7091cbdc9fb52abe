/** What the main thread of the page did, from the browser's own trace (Chrome DevTools Protocol, Tracing). */
import type { WebDriver } from "selenium-webdriver";

interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly pid: number;
  readonly tid: number;
  /** Microseconds. */
  readonly ts: number;
  readonly dur?: number;
  readonly args?: { readonly name?: string };
}

/** The part of selenium's connection to the protocol that is used here. */
interface Connection {
  send(method: string, params: object): Promise<unknown>;
  readonly _wsConnection: {
    on(kind: "message", listener: (message: string) => void): void;
    off(kind: "message", listener: (message: string) => void): void;
  };
}

export interface Tracer {
  /** Traces while something is done, and gives what was seen. */
  during(work: () => Promise<void>): Promise<TraceEvent[]>;
}

export async function openTracer(driver: WebDriver): Promise<Tracer> {
  const connection = (await driver.createCDPConnection("page")) as unknown as Connection;
  return {
    async during(work) {
      const events: TraceEvent[] = [];
      let complete = () => {};
      const ended = new Promise<void>((ok) => {
        complete = ok;
      });
      const hear = (message: string) => {
        const { method, params } = JSON.parse(message) as {
          method?: string;
          params?: { value?: TraceEvent[] };
        };
        if (method === "Tracing.dataCollected") events.push(...(params?.value ?? []));
        if (method === "Tracing.tracingComplete") complete();
      };
      connection._wsConnection.on("message", hear);
      await connection.send("Tracing.start", {
        traceConfig: { includedCategories: ["toplevel", "devtools.timeline", "blink.user_timing"] },
      });
      await work();
      await connection.send("Tracing.end", {});
      await ended;
      connection._wsConnection.off("message", hear);
      return events;
    },
  };
}

/** Time of tasks on the page's main thread between two marks of the page's own (performance.mark), ms. */
export function mainThreadTime(events: readonly TraceEvent[], from: string, to: string): number {
  const mark = (name: string) => events.findLast((one) => one.name === name);
  const [begin, end] = [mark(from), mark(to)];
  if (!begin || !end) throw new Error(`No marks ${from} and ${to} in a trace of ${events.length}`);
  const tasks = events.filter(
    (one) =>
      one.pid === begin.pid &&
      one.tid === begin.tid &&
      /RunTask$/.test(one.name) &&
      one.ph === "X" &&
      one.ts >= begin.ts &&
      one.ts <= end.ts,
  );
  return tasks.reduce((sum, one) => sum + (one.dur ?? 0), 0) / 1_000;
}
