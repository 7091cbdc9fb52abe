/**
 * Statements that are asked again and again: the database reads each once and keeps it under a name, and from then on
 * gets the values alone (PostgreSQL's extended query protocol).
 */
import { type PGlite, parse, protocol } from "@electric-sql/pglite";
import { LIMITS } from "#core/limits.ts";

const { serialize } = protocol;
type Message = Awaited<ReturnType<PGlite["execProtocolStream"]>>[number];

interface Known {
  readonly name: string;
  /** The types of its parameters, by their OIDs. */
  readonly types: readonly number[];
  /** What its rows consist of; none where it gives no rows. */
  readonly shape: readonly Message[];
}

export interface Statements {
  /** The rows of a statement, and how many it has touched. */
  query(text: string, params: readonly unknown[]): Promise<{ rows: unknown[]; affected: number }>;
  /** Is told what has been run beside it, well or not: the bounds of transactions, and migrations. */
  ran(text: string): void;
}

/** What has rows or touches some. All else is asked as it is, and may make tables others, for good or until it is taken back. */
const OF_ROWS = /^\s*(?:select|insert|update|delete|with)\b/i;
const BEGINS = /^\s*begin\s*$/i;
const ENDS = /^\s*(?:commit|rollback)\s*$/i;

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

export function statementsOf(pg: PGlite): Statements {
  /** By their texts, the one asked last at the end; those asked once so far have no name yet. */
  const known = new Map<string, Known | null>();
  /** Names that nobody uses any more: the next question takes them along. */
  let gone: string[] = [];
  let made = 0;
  /** Tables may have become others in the transaction under way: they may become again what they were. */
  let others = false;

  const leave = (one: Known | null | undefined) => one && gone.push(one.name);
  function keep(text: string, one: Known | null): void {
    known.delete(text);
    known.set(text, one);
    if (known.size <= LIMITS.statementsKept) return;
    const [oldest] = known.keys() as Iterable<string> as [string];
    leave(known.get(oldest));
    known.delete(oldest);
  }

  const ask = async (...parts: readonly Uint8Array[]): Promise<Message[]> => {
    const closing = gone.map((name) => serialize.close({ type: "S", name }));
    gone = [];
    return pg.execProtocolStream(joined([...closing, ...parts, serialize.sync()]), {
      syncToFs: false,
    });
  };

  async function read(text: string): Promise<Known> {
    const name = `s${++made}`;
    const told = await ask(
      serialize.parse({ name, text }),
      serialize.describe({ type: "S", name }),
    );
    const params = told.find((one) => one.name === "parameterDescription");
    return {
      name,
      types: (params as { dataTypeIDs?: number[] } | undefined)?.dataTypeIDs ?? [],
      shape: told.filter((one) => one.name === "rowDescription"),
    };
  }

  /** What was read of statements counts no more. */
  function forget(): void {
    for (const one of known.values()) leave(one);
    known.clear();
  }
  async function plainly(text: string, params: readonly unknown[]) {
    const { rows, affectedRows } = await pg.query(text, [...params]);
    return { rows, affected: affectedRows ?? 0 };
  }

  return {
    async query(text, params) {
      if (!OF_ROWS.test(text)) {
        try {
          return await plainly(text, params);
        } finally {
          others = true;
          forget();
        }
      }
      // What is read once more matters little beside so much, and is not put together with it in another piece of memory.
      const large = (value: unknown) =>
        typeof value === "string" && value.length > LIMITS.statementValue;
      if (text.length > LIMITS.statementKept || params.some(large)) return plainly(text, params);
      if (!known.has(text)) {
        keep(text, null);
        return plainly(text, params);
      }
      return pg.runExclusive(async () => {
        // Looked up in its turn: tables may have become others while it waited.
        const one = known.get(text) ?? (await read(text));
        keep(text, one);
        const values = params.map((value, i) => {
          if (value === null || value === undefined) return null;
          const written = pg.serializers[one.types[i]!];
          return written ? written(value) : String(value);
        });
        const told = await ask(
          serialize.bind({ statement: one.name, values }),
          serialize.execute({}),
        );
        await pg.syncToFs();
        const [result] = parse.parseResults([...one.shape, ...told], pg.parsers);
        return { rows: result?.rows ?? [], affected: result?.affectedRows ?? 0 };
      });
    },
    ran(text) {
      if (BEGINS.test(text) || (ENDS.test(text) && !others)) return;
      others = false;
      forget();
    },
  };
}
