/** The one door to the database: plain SQL as a template, every value in a hole a parameter. */
import { AsyncLocalStorage } from "node:async_hooks";
import { LIMITS } from "#core/limits.ts";
import { constantSql, fragment, numbered, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Answer, Port, Request } from "./host.ts";
import { holdable } from "./values.ts";

/** Runs a statement and gives its rows. */
export type Sql = <Row = Record<string, unknown>>(
  strings: TemplateStringsArray,
  ...holes: unknown[]
) => Promise<Row[]>;

export interface Database {
  readonly sql: Sql;
  /** Runs work in one transaction; it must use the `sql` it is given, and be done in time (ms). */
  tx<T>(work: (sql: Sql) => Promise<T>, deadline?: number): Promise<T>;
  /** Fills a table from rows as COPY takes them; `into` names the table and its columns. */
  copy(into: SqlPiece, rows: Uint8Array, format?: "text" | "csv"): Promise<void>;
  /** Does work whose statements go before those of others that wait. */
  first<T>(work: () => T): T;
  /** Does work whose statements wait until others have had none for a moment: counts that nobody waits for. */
  last<T>(work: () => T): T;
  /** Does long work beside what people do: what comes last does not wait for its statements. */
  beside<T>(work: () => T): T;
  /** Several statements from code only (migrations). */
  exec(text: string): Promise<void>;
  close(): Promise<void>;
}

/** An error the database answered with; `code` is the SQLSTATE. */
export class DatabaseError extends Error {
  constructor(
    message: string,
    readonly code: string | undefined,
    readonly detail: string | undefined,
  ) {
    super(message);
    this.name = "DatabaseError";
  }
}

const TRANSACTION_MS = 30_000;
/** For how long nobody has asked before what is last has its turn; how long a statement waits for that at most, and how long a work with all of its statements (ms). */
const QUIET = { ms: 12, most: 250, all: 1_000 };

type Ask = Request extends infer R
  ? R extends { id: number }
    ? Omit<R, "id" | "lease" | "place">
    : never
  : never;

/** Is told of statements that kept the database long, with how long, ms. */
export type Slow = (text: string, took: number) => void;

/** The door over a message port behind which `host` answers. */
export function connect(port: Port, slow: Slow = () => {}): Database {
  const pending = new Map<number, { ok(value: Answer): void; fail(error: Error): void }>();
  const leased = new AsyncLocalStorage<number>();
  /** `left` is how long a work that comes last may still wait, ms. */
  const order = new AsyncLocalStorage<"first" | "beside" | { left: number }>();
  /** Statements under way that are not the last ones, and when the latest of them was answered. */
  let others = 0;
  let answered = 0;
  let last = 0;

  port.on("message", (answer: Answer) => {
    const waiting = pending.get(answer.id);
    if (!waiting) return;
    pending.delete(answer.id);
    if ("error" in answer) {
      const { message, code, detail } = answer.error;
      waiting.fail(new DatabaseError(message, code, detail));
    } else waiting.ok(answer);
  });

  function ask(request: Ask, lease: number | null): Promise<Extract<Answer, { rows: unknown[] }>> {
    const id = ++last;
    return new Promise((ok, fail) => {
      const told = (answer: Answer) => {
        if ("took" in answer && answer.took! > LIMITS.slowStatement && "text" in request) {
          slow(request.text, answer.took!);
        }
        (ok as (value: Answer) => void)(answer);
      };
      pending.set(id, { ok: told, fail });
      const store = order.getStore();
      const place = store === "first" ? store : store === undefined ? "team" : "beside";
      port.postMessage({ id, lease, place, ...request });
    });
  }

  /** Waits until others have asked for nothing for a moment; not for ever, though. */
  async function quiet(work: { left: number }): Promise<void> {
    const began = performance.now();
    const latest = began + Math.min(QUIET.most, work.left);
    while (performance.now() < latest) {
      if (others === 0 && performance.now() - answered > QUIET.ms) break;
      await new Promise((ok) => setTimeout(ok, QUIET.ms));
    }
    work.left -= performance.now() - began;
  }

  const door =
    (lease: number | null): Sql =>
    async <Row>(strings: TemplateStringsArray, ...holes: unknown[]) => {
      if (lease === null && leased.getStore() !== undefined) {
        throw new Error("Inside a transaction, use the sql it was given");
      }
      const { text, params } = numbered(fragment(strings, ...holes));
      const query = () => ask({ do: "query", text, params: params.map(holdable) }, lease);
      const place = order.getStore();
      if (typeof place === "object" && lease === null) {
        await quiet(place);
        return (await query()).rows as Row[];
      }
      if (place === "beside") return (await query()).rows as Row[];
      others++;
      try {
        return (await query()).rows as Row[];
      } finally {
        others--;
        answered = performance.now();
      }
    };

  return {
    sql: door(null),
    async tx(work, deadline = TRANSACTION_MS) {
      if (leased.getStore() !== undefined) throw new Error("A transaction is already open");
      const { lease } = await ask({ do: "begin", deadline }, null);
      try {
        const result = await leased.run(lease!, () => work(door(lease!)));
        await ask({ do: "end", commit: true }, lease!);
        return result;
      } catch (error) {
        await ask({ do: "end", commit: false }, lease!).catch(() => {});
        throw error;
      }
    },
    async copy(into, rows, format = "text") {
      const how = constantSql(format === "csv" ? " with (format csv, header)" : "");
      const { text } = numbered(fragment`copy ${into} from '/dev/blob'${how}`);
      await ask({ do: "copy", text, data: rows }, null);
    },
    first: (work) => order.run("first", work),
    last: (work) => order.run({ left: QUIET.all }, work),
    beside: (work) => order.run("beside", work),
    async exec(text) {
      await ask({ do: "exec", text }, null);
    },
    async close() {
      await ask({ do: "close" }, null);
    },
  };
}

/** The first row, or null. */
export const first = <Row>(rows: readonly Row[]): Row | null => rows[0] ?? null;
