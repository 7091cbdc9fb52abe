import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { coverBox, largestArea, RATIOS } from "./crop.ts";
import { boxOf, isPlain, PLAIN, pictureRecipeSchema, sizeAfter, turned } from "./recipe.ts";
import { isSentWidth, sentWidth } from "./sizes.ts";

const side = fc.integer({ min: 1, max: 8_000 });
const size = fc.record({ width: side, height: side });
const per = fc.integer({ min: 0, max: 100 });
const focus = fc.record({ x: per, y: per });

describe("a recipe", () => {
  it("does nothing where it is plain", () => {
    expect(isPlain(PLAIN)).toBe(true);
    expect(isPlain({ ...PLAIN, warmth: 1 })).toBe(false);
    expect(sizeAfter(PLAIN, { width: 800, height: 600 }, 1_600)).toEqual({
      ...{ width: 800, height: 600 },
    });
  });
  it("turns, cuts and makes smaller, and never larger", () => {
    const original = { width: 3_000, height: 2_000 };
    expect(turned(original, { turn: 90 })).toEqual({ width: 2_000, height: 3_000 });
    const half = { x: 0.25, y: 0, width: 0.5, height: 0.5 };
    expect(sizeAfter({ ...PLAIN, turn: 90, area: half }, original, 1_600)).toEqual({
      ...{ width: 1_000, height: 1_500 },
    });
    expect(sizeAfter({ ...PLAIN, width: 300 }, original, 1_600)).toEqual({
      ...{ width: 300, height: 200 },
    });
    expect(sizeAfter({ ...PLAIN, width: 8_000 }, original, 1_600).width).toBe(1_600);
  });
  it("refuses what does not lie in the image, and words that are none", () => {
    const taken = (part: object) => pictureRecipeSchema.safeParse({ ...PLAIN, ...part }).success;
    const words = { text: "Spring", font: "sans", size: 10, ink: "#112233", ground: null };
    expect(taken({ area: { x: 0.5, y: 0, width: 0.6, height: 1 } })).toBe(false);
    expect(taken({ area: { x: 0, y: 0, width: 0, height: 1 } })).toBe(false);
    expect(taken({ turn: 45 })).toBe(false);
    expect(taken({ words: [{ ...words, across: 50, down: 50 }] })).toBe(true);
    expect(taken({ words: [{ ...words, across: 50, down: 50, text: " " }] })).toBe(false);
    expect(taken({ words: [{ ...words, across: 50, down: 50, ink: "red" }] })).toBe(false);
  });
  it("cuts within the image, whatever its size", () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(size, share, share, share, share, (whole, x, y, w, h) => {
        const area = { x, y, width: Math.min(w, 1 - x), height: Math.min(h, 1 - y) };
        const { left, top, width, height } = boxOf(area, whole);
        expect(Math.min(left, top)).toBeGreaterThanOrEqual(0);
        expect(Math.min(width, height)).toBeGreaterThanOrEqual(1);
        expect(left + width).toBeLessThanOrEqual(whole.width);
        expect(top + height).toBeLessThanOrEqual(whole.height);
      }),
    );
  });
});

describe("a cut", () => {
  it("is the largest of its shape, within the image, with the focus in it", () => {
    const ratios = fc.constantFrom(...RATIOS.map(({ ratio }) => ratio));
    fc.assert(
      fc.property(size, ratios, focus, (whole, ratio, at) => {
        const { x, y, width, height } = largestArea(whole, ratio, at);
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x + width).toBeLessThanOrEqual(1 + 1e-9);
        expect(y + height).toBeLessThanOrEqual(1 + 1e-9);
        expect(Math.max(width, height)).toBeCloseTo(1);
        expect((width * whole.width) / (height * whole.height)).toBeCloseTo(ratio, 6);
        expect(at.x / 100).toBeGreaterThanOrEqual(x - 1e-9);
        expect(at.x / 100).toBeLessThanOrEqual(x + width + 1e-9);
      }),
    );
  });
  it("of what covers a place lies in it", () => {
    const more = fc.integer({ min: 0, max: 900 });
    fc.assert(
      fc.property(size, more, more, focus, (place, right, down, at) => {
        const covering = { width: place.width + right, height: place.height + down };
        const { left, top } = coverBox(covering, place, at);
        expect(left).toBeGreaterThanOrEqual(0);
        expect(left).toBeLessThanOrEqual(right);
        expect(top).toBeGreaterThanOrEqual(0);
        expect(top).toBeLessThanOrEqual(down);
      }),
    );
  });
});

describe("the file for a place", () => {
  it("has two pixels a point, in steps, and is the image itself where little would be saved", () => {
    const photo = { width: 1_600, file: "a.jpg" };
    expect(sentWidth(photo, 260, false)).toBe(560);
    expect(sentWidth(photo, 260, true)).toBe(960);
    expect(sentWidth(photo, 700, false)).toBe(null);
    expect(sentWidth({ ...photo, file: "a.gif" }, 100, false)).toBe(null);
  });
  it("is wide enough, never wider than the image, and one that is made", () => {
    fc.assert(
      fc.property(side, fc.integer({ min: 1, max: 900 }), fc.boolean(), (own, place, grows) => {
        const sent = sentWidth({ width: own, file: "a.png" }, place, grows);
        if (sent === null) return;
        expect(sent).toBeLessThan(own);
        expect(sent).toBeGreaterThanOrEqual(place * 2);
        expect(isSentWidth(sent)).toBe(true);
      }),
    );
  });
});
