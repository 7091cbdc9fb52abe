/**
 * The worker's side of the door: takes requests from a message port, one at a time. A lease keeps the
 * database for one transaction; requests from outside it wait, at most until its deadline.
 */
import type { MessagePort, Worker } from "node:worker_threads";
import type { Engine } from "./engine.ts";

export type Request = {
  id: number;
  lease: number | null;
  /** Whose it is: of readers, who come first; of the team; or of work that nobody waits for. */
  place: "first" | "team" | "beside";
} & (
  | { do: "query"; text: string; params: unknown[] }
  | { do: "exec"; text: string }
  | { do: "copy"; text: string; data: Uint8Array }
  | { do: "begin"; deadline: number }
  | { do: "end"; commit: boolean }
  | { do: "close" }
);
export type Answer =
  | {
      id: number;
      rows: unknown[];
      affected: number;
      lease?: number;
      /** How long it took, ms. */
      took?: number;
    }
  | { id: number; error: { message: string; code?: string; detail?: string } };

export type Port = MessagePort | Worker;

/** As many statements of those who come first are answered before one of the team that waits: a flood leaves room. */
const FIRST_IN_A_ROW = 4;

/** How long the database waits for the next question of somebody who comes first, ms. */
const KEPT_MS = 6;

export function host(port: Port, engine: Engine): void {
  const waiting: Request[] = [];
  let lease: number | null = null;
  let leases = 0;
  let timer: NodeJS.Timeout | undefined;
  let busy = false;
  const expired = new Set<number>();
  /** Until when what comes first may still ask more: a page asks several things, one after the other. */
  let kept = 0;
  /** How many that come first have gone before one of the team. */
  let row = 0;

  const release = () => {
    clearTimeout(timer);
    lease = null;
  };

  async function run(
    request: Request,
  ): Promise<{ rows: unknown[]; affected: number; lease?: number }> {
    const done = { rows: [], affected: 0 };
    switch (request.do) {
      case "query":
        return engine.query(request.text, request.params);
      case "exec":
        await engine.exec(request.text);
        return done;
      case "copy":
        await engine.copy(request.text, request.data);
        return done;
      case "begin": {
        await engine.exec("begin");
        lease = ++leases;
        const mine = lease;
        timer = setTimeout(async () => {
          if (lease !== mine) return;
          expired.add(mine);
          waiting.unshift({ id: -1, lease: mine, place: "first", do: "end", commit: false });
          void next();
        }, request.deadline);
        return { ...done, lease };
      }
      case "end":
        await engine.exec(request.commit ? "commit" : "rollback");
        release();
        return done;
      case "close":
        await engine.close();
        return done;
    }
  }

  async function next(): Promise<void> {
    if (busy) return;
    const may = (request: Request) => lease === null || request.lease === lease;
    const of = (place: Request["place"]) =>
      waiting.findIndex((request) => request.place === place && may(request));
    const team = row >= FIRST_IN_A_ROW ? of("team") : -1;
    const ahead = team < 0 ? of("first") : team;
    if (ahead < 0 && lease === null && performance.now() < kept) {
      if (waiting.length > 0) setTimeout(next, KEPT_MS / 4);
      return;
    }
    const at = ahead < 0 ? waiting.findIndex(may) : ahead;
    if (at < 0) return;
    busy = true;
    const [request] = waiting.splice(at, 1) as [Request];
    const comesFirst = request.place === "first" && request.id >= 0;
    row = comesFirst ? row + 1 : 0;
    try {
      if (request.lease !== null && (expired.has(request.lease) || request.lease !== lease)) {
        if (request.id >= 0) throw new Error("This transaction took too long and was rolled back");
      }
      const began = performance.now();
      const result = await run(request);
      const took = performance.now() - began;
      if (request.id >= 0) port.postMessage({ id: request.id, ...result, took });
    } catch (error) {
      const { message, code, detail } = error as Error & { code?: string; detail?: string };
      if (request.id >= 0) port.postMessage({ id: request.id, error: { message, code, detail } });
    } finally {
      busy = false;
      if (comesFirst) kept = performance.now() + KEPT_MS;
      // PGlite answers in microtasks: give messages and timers their turn.
      setImmediate(next);
    }
  }

  port.on("message", (request: Request) => {
    waiting.push(request);
    void next();
  });
}
