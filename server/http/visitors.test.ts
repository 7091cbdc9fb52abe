import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { createVisitors } from "./visitors.ts";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it("lets work go on at once where nobody waits, and once the last of them has left", async () => {
  const visitors = createVisitors(1_000, 300);
  await visitors.quiet();
  const [one, other] = [visitors.enter(), visitors.enter()];
  let went = false;
  const work = visitors.quiet().then(() => {
    went = true;
  });
  one();
  one();
  await Promise.resolve();
  expect(went).toBe(false);
  other();
  await work;
  await visitors.quiet();
});

it("waits for nobody for ever: not for a page that takes long, nor for one after the other", async () => {
  const visitors = createVisitors(1_000, 300);
  visitors.enter();
  const work = visitors.quiet();
  await vi.advanceTimersByTimeAsync(300);
  await work;
  await vi.advanceTimersByTimeAsync(700);
  // Nobody counts as waiting any more.
  await visitors.quiet();
});
