import { beforeEach, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { type TestClock, testClock } from "../testing/services.ts";
import { createGuesses, type Guesses } from "./guesses.ts";
import { createStreams } from "./streams.ts";

let clock: TestClock;
let guesses: Guesses;
beforeEach(() => {
  clock = testClock();
  guesses = createGuesses(clock);
});
const wrong = (times: number, network: (n: number) => string) => {
  for (let n = 0; n < times; n++) guesses.made("ada@x", network(n), false);
};

it("lets few guesses be made from one network, and more after a while", () => {
  wrong(LIMITS.guessesHere - 1, () => "1.1.1.1");
  expect(guesses.wait("ada@x", "1.1.1.1")).toBe(0);
  wrong(1, () => "1.1.1.1");
  expect(guesses.wait("ada@x", "1.1.1.1")).toBeGreaterThan(0);
  expect(guesses.wait("ada@x", "2.2.2.2")).toBe(0);
  expect(guesses.wait("bo@x", "1.1.1.1")).toBe(0);
  clock.advance(LIMITS.guessSpan);
  expect(guesses.wait("ada@x", "1.1.1.1")).toBe(0);
});

it("counts over all networks, and never keeps the right person out for that", () => {
  guesses.made("ada@x", "home", true);
  wrong(LIMITS.guessesEverywhere, (n) => `9.9.9.${n}`);
  expect(guesses.wait("ada@x", "8.8.8.8")).toBeGreaterThan(0);
  expect(guesses.wait("ada@x", "8.8.8.8")).toBeLessThanOrEqual(LIMITS.guessSpan);
  expect(guesses.wait("ada@x", "home")).toBe(0);
});

it("forgets what was wrong once it was right", () => {
  wrong(LIMITS.guessesHere - 1, () => "1.1.1.1");
  guesses.made("ada@x", "1.1.1.1", true);
  wrong(1, () => "1.1.1.1");
  expect(guesses.wait("ada@x", "1.1.1.1")).toBe(0);
});

it("gives a session a few streams, frees their places once, and ends them with it", () => {
  const streams = createStreams();
  const ended: number[] = [];
  const places = Array.from({ length: LIMITS.streamsPerSession }, (_, n) => {
    const free = streams.open("a", () => {
      ended.push(n);
      free?.();
    });
    return free;
  });
  expect(places.every(Boolean)).toBe(true);
  expect(streams.open("a", () => {})).toBeNull();
  expect(streams.open("b", () => {})).not.toBeNull();
  places[0]!();
  places[0]!();
  expect(streams.count).toBe(LIMITS.streamsPerSession);
  expect(streams.open("a", () => {})).not.toBeNull();
  streams.endOf("a");
  expect(ended).toHaveLength(LIMITS.streamsPerSession - 1);
});
