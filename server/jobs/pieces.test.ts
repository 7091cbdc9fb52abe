import { expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { gather } from "./gather.ts";
import { patiently } from "./patience.ts";
import { inPieces, Stopped } from "./pieces.ts";

const settings = (stopping = new AbortController().signal) =>
  ({ stopping, config: { pauses: false } }) as never;
const busy = (ms: number) => {
  const end = performance.now() + ms;
  while (performance.now() < end);
};

it("grows pieces that are quick, shrinks those that are slow, within bounds", async () => {
  const sizes: number[] = [];
  await inPieces(async (rows) => {
    sizes.push(rows);
    return sizes.length < 12;
  }, settings());
  expect(sizes[0]).toBe(LIMITS.pieceRows.first);
  expect(sizes[1]).toBe(2 * sizes[0]!);
  expect(sizes.at(-1)).toBe(LIMITS.pieceRows.most);
  const slow: number[] = [];
  await inPieces(async (rows) => {
    slow.push(rows);
    // By the row, as work is that smaller pieces make quicker.
    busy((LIMITS.pieceMs * rows) / 40);
    return slow.length < 7;
  }, settings());
  expect(Math.max(...slow.slice(2)) * LIMITS.pieceMs).toBeLessThan(40 * 3 * LIMITS.pieceMs);
  // Work that takes as long however few its rows are is not cut to crumbs.
  const fixed: number[] = [];
  await inPieces(async (rows) => {
    fixed.push(rows);
    busy(LIMITS.pieceMs * 1.2);
    return fixed.length < 6;
  }, settings());
  expect(fixed.at(-1)).toBeGreaterThan(LIMITS.pieceRows.first);
});

it("stops between two pieces", async () => {
  const stopping = new AbortController();
  let pieces = 0;
  const work = inPieces(async () => {
    if (++pieces === 3) stopping.abort();
    return true;
  }, settings(stopping.signal));
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
