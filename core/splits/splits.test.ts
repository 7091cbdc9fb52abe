import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { EmailProps } from "../blocks/layout.ts";
import { line, wordsOf } from "../text/index.ts";
import {
  chancesOfBest,
  differenceInterval,
  drawnFor,
  emailOfVariant,
  NO_SPLIT,
  readersNeeded,
  shareInterval,
  sizesOf,
  smallestRise,
  standingsOf,
  variantName,
  verdictOn,
} from "./index.ts";

describe("intervals", () => {
  it.each([
    // Newcombe 1998, Statistics in Medicine 17, 857–872, table I, method 3.
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])("of %i in %i are as published", (hits, of, low, high) => {
    const found = shareInterval(hits, of);
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  it.each([
    // Newcombe 1998, Statistics in Medicine 17, 873–890, table II, method 10.
    [56, 70, 48, 80, 0.0524, 0.3339],
    [9, 10, 3, 10, 0.1705, 0.809],
    [10, 10, 0, 20, 0.6791, 1],
  ])("of a difference %i/%i less %i/%i are as published", (a, m, b, n, low, high) => {
    const found = differenceInterval({ hits: a, readers: m }, { hits: b, readers: n });
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  it("hold what was seen, stay between 0 and 1, and say nothing of nobody", () => {
    fc.assert(
      fc.property(fc.nat(5_000), fc.nat(5_000), (a, b) => {
        const [hits, of] = [Math.min(a, b), Math.max(a, b, 1)];
        const { low, high } = shareInterval(hits, of);
        expect(low).toBeGreaterThanOrEqual(0);
        expect(high).toBeLessThanOrEqual(1);
        expect(low).toBeLessThanOrEqual(hits / of);
        expect(high).toBeGreaterThanOrEqual(hits / of);
      }),
    );
    expect(shareInterval(0, 0)).toEqual({ low: 0, high: 1 });
  });

  it.each([
    // As power.prop.test of R gives them: 387.3, 57.7.
    [0.5, 0.6, 388],
    [0.5, 0.75, 58],
  ])("from %d to %d takes %i readers each", (from, to, readers) => {
    expect(readersNeeded(from, to)).toBe(readers);
  });

  it("the smallest rise is one that so many readers show, and a smaller one is not", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.005, max: 0.9, noNaN: true }),
        fc.integer({ min: 60, max: 90_000 }),
        (from, readers) => {
          const rise = smallestRise(from, readers);
          if (rise === null) return;
          expect(readersNeeded(from, Math.min(1, from + rise))).toBeLessThanOrEqual(readers);
          expect(readersNeeded(from, from + rise * 0.98)).toBeGreaterThanOrEqual(readers);
        },
      ),
    );
    expect(smallestRise(0.3, 0)).toBeNull();
    expect(smallestRise(0.9, 5)).toBeNull();
  });
});

describe("the best", () => {
  const logGamma = (n: number) => {
    let sum = 0;
    for (let i = 2; i < n; i++) sum += Math.log(i);
    return sum;
  };
  const logBeta = (a: number, b: number) => logGamma(a) + logGamma(b) - logGamma(a + b);
  /** The second is larger than the first: the closed form for two Beta distributions of whole shapes. */
  const second = ([a, b]: [number, number], [c, d]: [number, number]) => {
    let sum = 0;
    for (let i = 0; i < c; i++) {
      sum += Math.exp(logBeta(a + i, b + d) - Math.log(d + i) - logBeta(1 + i, d) - logBeta(a, b));
    }
    return sum;
  };

  it("is as sure as the closed form for two has it", () => {
    const some = fc.tuple(
      fc.integer({ min: 1, max: 3_000 }),
      fc.double({ min: 0, max: 1, noNaN: true }),
    );
    fc.assert(
      fc.property(some, some, ([m, p], [n, q]) => {
        const one = { readers: m, hits: Math.round(m * p) };
        const two = { readers: n, hits: Math.round(n * q) };
        const [, found] = chancesOfBest([one, two]);
        const exact = second(
          [one.hits + 1, one.readers - one.hits + 1],
          [two.hits + 1, two.readers - two.hits + 1],
        );
        expect(Math.abs(found! - exact)).toBeLessThan(0.002);
      }),
      { numRuns: 60 },
    );
  });

  it("has chances that add up, the same for the same, and the largest for the largest share", () => {
    const same = { readers: 400, hits: 90 };
    const five = chancesOfBest([same, same, same, same, same]);
    for (const one of five) expect(one).toBeCloseTo(0.2, 3);
    const { leader, sure } = verdictOn(
      standingsOf([same, { readers: 400, hits: 150 }, { readers: 400, hits: 93 }]),
    );
    expect([leader, sure]).toEqual([1, true]);
  });

  it("is too close to call where it is, and where nobody has done anything", () => {
    const close = verdictOn(
      standingsOf([
        { readers: 200, hits: 50 },
        { readers: 200, hits: 54 },
      ]),
    );
    expect(close).toEqual({ leader: 1, sure: false });
    expect(
      verdictOn(
        standingsOf([
          { readers: 0, hits: 0 },
          { readers: 0, hits: 0 },
        ]),
      ).sure,
    ).toBe(false);
  });
});

describe("the draw", () => {
  const plans = fc.record({
    variants: fc.array(fc.constant({} as never), { maxLength: 4 }),
    share: fc.integer({ min: 1, max: 80 }),
    control: fc.integer({ min: 0, max: 20 }),
  });

  it("gives each variant equally many, and everybody one thing", () => {
    fc.assert(
      fc.property(plans, fc.nat(3_000), (plan, readers) => {
        const sizes = sizesOf(readers, plan);
        expect(sizes.rest).toBeGreaterThanOrEqual(0);
        const drawn = Array.from({ length: readers }, (_, place) => drawnFor(place, sizes));
        const many = (is: (one: (typeof drawn)[number]) => boolean) => drawn.filter(is).length;
        expect(many((one) => one.for === "control")).toBe(sizes.control);
        expect(many((one) => one.for === "rest")).toBe(sizes.rest);
        for (let v = 0; v < sizes.variants; v++) {
          expect(many((one) => one.for === "test" && one.variant === v)).toBe(sizes.each);
        }
        // Never more than was said.
        expect(sizes.each * sizes.variants).toBeLessThanOrEqual((readers * plan.share) / 100);
      }),
    );
  });

  it("tries nothing where there is one variant", () => {
    expect(sizesOf(100, { ...NO_SPLIT, control: 10 })).toEqual({
      ...{ each: 0, variants: 1, control: 10, rest: 90 },
    });
  });
});

it("a variant says what it says otherwise, and comes from the same sender", () => {
  const email = (subject: string, from: string) =>
    createDocument(
      [
        createBand(
          () => from,
          [createColumn(() => `${from}c`, [createBlock("text", () => `${from}t`)])],
        ),
      ],
      {
        envelope: {
          ...{ fromName: line("Larkmoor"), fromAddress: `${from}@larkmoor.example`, replyTo: "" },
          ...{ subject: line(subject), preview: line("See") },
        },
      },
    );
  const main = email("One", "a");
  const words = { subject: line("Two"), preview: null, fromName: null, content: null };
  const envelopeOf = (doc: typeof main) => (doc.root.props as unknown as EmailProps).envelope;
  const two = emailOfVariant(main, words, null);
  expect(wordsOf(envelopeOf(two).subject)).toBe("Two");
  expect(wordsOf(envelopeOf(two).preview)).toBe("See");
  expect(two.root.children).toBe(main.root.children);
  const third = emailOfVariant(
    main,
    { subject: null, preview: line("Look"), fromName: line("The shop"), content: null },
    null,
  );
  expect(wordsOf(envelopeOf(third).subject)).toBe("One");
  expect(wordsOf(envelopeOf(third).preview)).toBe("Look");
  expect(wordsOf(envelopeOf(third).fromName)).toBe("The shop");
  const other = emailOfVariant(main, { ...words, subject: null }, email("Three", "b"));
  expect(wordsOf(envelopeOf(other).subject)).toBe("Three");
  expect(envelopeOf(other).fromAddress).toBe("a@larkmoor.example");
  expect(variantName(1)).toBe("B");
});
