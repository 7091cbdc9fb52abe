import { expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { gather } from "./gather.ts";
import { patiently } from "./patience.ts";
import { inPieces, pieceSizes, Stopped } from "./pieces.ts";

/** What sizes come to where a piece takes so long, ms, of its rows. */
function sizesOf(cost: (rows: number) => number, pieces = 30): number[] {
  const sizes = pieceSizes();
  return Array.from({ length: pieces }, () => {
    const rows = sizes.rows();
    sizes.took(cost(rows));
    return rows;
  });
}

it("learns how many rows a piece may have to take as long as it should", () => {
  const { pieceMs, pieceRows } = LIMITS;
  expect(sizesOf(() => 0.1).at(-1)).toBe(pieceRows.most);
  const byRow = sizesOf((rows) => rows * 0.5).at(-1)!;
  expect(byRow * 0.5).toBeGreaterThan(pieceMs * 0.7);
  expect(byRow * 0.5).toBeLessThan(pieceMs * 1.4);
  const dear = sizesOf((rows) => rows * 10).at(-1)!;
  expect(dear).toBe(10);
});

it("does not cut work to crumbs of which each takes long whatever its rows", () => {
  const cost = (rows: number) => 80 + rows * 0.05;
  const rows = sizesOf(cost).at(-1)!;
  // Most of a piece is its rows.
  expect(rows * 0.05).toBeGreaterThan(80);
  expect(cost(rows)).toBeLessThan(80 * 5);
});

const services = (stopping = new AbortController().signal) =>
  ({
    stopping,
    config: { pauses: false },
    database: { tx: (work: (sql: null) => unknown) => work(null) },
  }) as never;

it("stops between two pieces", async () => {
  const stopping = new AbortController();
  let pieces = 0;
  const work = inPieces(services(stopping.signal), async () => {
    if (++pieces === 3) stopping.abort();
    return true;
  });
  await expect(work).rejects.toThrow(Stopped);
  expect(pieces).toBe(3);
});

it("gathers those who call while one is under way", async () => {
  const calls: number[][] = [];
  const ask = gather(async (items: readonly number[]) => {
    calls.push([...items]);
    await new Promise((ok) => setTimeout(ok, 10));
    if (items.includes(9)) throw new Error("nine");
    return items.length;
  });
  const first = ask(1);
  await Promise.resolve();
  expect(await Promise.all([first, ask(2), ask(3)])).toEqual([1, 2, 2]);
  expect(calls).toEqual([[1], [2, 3]]);
  // One that fails fails those it was for, and no others.
  const failed = ask(9);
  await Promise.resolve();
  const next = ask(4);
  await expect(failed).rejects.toThrow("nine");
  expect(await next).toBe(1);
});

it("tries again what must not be lost, until it is told to end", async () => {
  let tries = 0;
  const once = async () => {
    if (++tries < 3) throw new Error("the disk is full");
    return "done";
  };
  expect(await patiently(once, new AbortController().signal)).toBe("done");
  const stopping = new AbortController();
  setTimeout(() => stopping.abort(), 30);
  const never = patiently(() => Promise.reject(new Error("still full")), stopping.signal);
  await expect(never).rejects.toThrow("still full");
});
