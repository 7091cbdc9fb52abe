/** Long work in pieces: nobody waits for longer than one of them, and it can be taken up after any. */
import { setTimeout as sleep } from "node:timers/promises";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";

/** Work was told to stop between two pieces; it goes on when it is taken up again. */
export class Stopped extends Error {}

/** As few rows as a piece may have. */
const LEAST = 10;
/** How many times as long as what it takes without any rows a piece is meant to take: else most of the work were that. */
const FIXED = 4;

/**
 * How many rows the next piece looks at, so that it takes about as long as it should. What a piece takes whatever
 * its rows, and what each row takes, is learned from those before.
 */
export function pieceSizes(): { rows(): number; took(ms: number): void } {
  const { first, most } = LIMITS.pieceRows;
  let rows: number = first;
  let fixed = 0;
  let before: { rows: number; ms: number } | null = null;
  return {
    rows: () => rows,
    took(ms) {
      if (before && before.rows !== rows) {
        const each = Math.max(0, (ms - before.ms) / (rows - before.rows));
        const found = Math.min(ms, Math.max(0, ms - each * rows));
        fixed = 0.6 * fixed + 0.4 * found;
      }
      before = { rows, ms };
      const wanted = Math.max(
        LIMITS.pieceMs,
        Math.min(fixed * FIXED, LIMITS.pieceMostMs),
        fixed * 1.5,
      );
      const each = Math.max(ms - fixed, 0.001) / rows;
      const next = (wanted - fixed) / each;
      rows = Math.round(Math.min(most, rows * 1.5, Math.max(LEAST, rows / 2, next)));
    },
  };
}

/**
 * Works piece by piece until one says that it was the last: each a transaction that looks at so many rows, with a
 * rest for others after it. Throws Stopped once the process is told to end.
 */
export async function inPieces(
  { database, stopping, config }: Pick<Services, "database" | "stopping" | "config">,
  piece: (sql: Sql, rows: number) => Promise<boolean>,
): Promise<void> {
  const sizes = pieceSizes();
  for (let more = true; more; ) {
    if (stopping.aborted) throw new Stopped();
    let ms = 0;
    more = await database.tx(async (sql) => {
      // Counted from here: waiting for others says nothing about the piece.
      const began = performance.now();
      const again = await piece(sql, sizes.rows());
      ms = performance.now() - began;
      return again;
    });
    sizes.took(ms);
    if (config.pauses) await sleep(ms * LIMITS.pieceRest);
  }
}
