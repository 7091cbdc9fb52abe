/** Long work in pieces: nobody waits for longer than one of them, and it can be taken up after any. */
import { setTimeout as sleep } from "node:timers/promises";
import { LIMITS } from "#core/limits.ts";
import type { Services } from "../services.ts";

/** As few rows as a piece may have. */
const LEAST = 10;
/** How many times the least that any piece took one may take. */
const FIXED = 3;

/** Work was told to stop between two pieces; it goes on when it is taken up again. */
export class Stopped extends Error {}

/**
 * Works piece by piece until one says that it was the last. `piece` gets how many rows to look at, which grows
 * and shrinks so that one takes about as long as it should, whatever it costs. Throws Stopped once the process is
 * told to end.
 */
export async function inPieces(
  piece: (rows: number) => Promise<boolean>,
  { stopping, config }: Pick<Services, "stopping" | "config">,
): Promise<void> {
  const rest = config.pauses ? LIMITS.pieceRest : 0;
  const { first, most } = LIMITS.pieceRows;
  let rows: number = first;
  // What a piece takes however few rows it has: smaller ones than that allows would only be more.
  let least = Number.POSITIVE_INFINITY;
  for (;;) {
    if (stopping.aborted) throw new Stopped();
    const began = performance.now();
    if (!(await piece(rows))) return;
    const took = performance.now() - began;
    least = Math.min(least, took);
    const wanted = Math.max(LIMITS.pieceMs, least * FIXED);
    if (took < wanted / 2) rows = Math.min(most, rows * 2);
    else if (took > wanted * 1.5) rows = Math.max(LEAST, Math.floor(rows / 2));
    if (rest > 0) await sleep(took * rest);
  }
}
