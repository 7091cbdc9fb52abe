import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readabilityOf, syllables } from "./readability.ts";
import { adviseSubject } from "./subject-advice.ts";
import { adviseText } from "./text-advice.ts";
import { WORDINGS } from "./wordings.ts";

/** The paragraph with every proposal taken. */
const taken = (text: string, lang = "en-GB") =>
  adviseText([text], lang)
    .proposals.toReversed()
    .reduce((out, { from, to, after }) => out.slice(0, from) + after + out.slice(to), text);

describe("a text", () => {
  it.each([
    ["In order to visit, book ahead.", "To visit, book ahead."],
    ["We make use of rain water.", "We use rain water."],
    ["Please note that the gate is shut.", "The gate is shut."],
    ["They are very old trees.", "They are old trees."],
    ["It is a very old tree, really.", "It is a very old tree, really."],
    ["The the gate opens!!!", "The gate opens!"],
    ["Prior to \ufffc, we close", "Before \ufffc, we close"],
    ["Ordering in orderly rows", "Ordering in orderly rows"],
  ])("%s → %s", (before, after) => {
    expect(taken(before)).toBe(after);
  });
  it("keeps to the language of the email", () => {
    expect(taken("Afin de visiter, réservez.", "fr")).toBe("Pour visiter, réservez.");
    expect(taken("In order to visit", "fr")).toBe("In order to visit");
    expect(taken("In order to visit", "he")).toBe("In order to visit");
  });
  it("remarks on long sentences, mistrusted words and shouting, without other words for them", () => {
    const long = `${"The garden has many old trees and ".repeat(5)}a pond.`;
    const { remarks } = adviseText([long, "Act now, it is FREE FOR EVERYBODY HERE"], "en-GB");
    expect(remarks.map((one) => one.paragraph)).toEqual([0, 1, 1]);
    expect(remarks[0]!.reason).toContain("words");
  });
  it("only ever takes away or puts in words of its lists", () => {
    const known = new Set(
      Object.values(WORDINGS)
        .flat()
        .flatMap(({ plain }) => plain.toLowerCase().split(" ")),
    );
    const words = [
      "the",
      "very",
      "very",
      "in order to",
      "due to the fact that",
      "free gift",
      "gate",
      "Paris",
      "!!",
      "\ufffc",
    ];
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 20 }), (parts) => {
        const text = parts.join(" ");
        const before = new Set(text.toLowerCase().split(/[^\p{L}]+/u));
        for (const word of taken(text)
          .toLowerCase()
          .split(/[^\p{L}]+/u)) {
          expect(before.has(word) || known.has(word)).toBe(true);
        }
        expect(taken(text).split("\ufffc").length).toBe(text.split("\ufffc").length);
      }),
    );
  });
});

describe("reading ease", () => {
  it("counts syllables by groups of vowels", () => {
    expect(["garden", "tree", "beautiful", "the", "place"].map((w) => syllables(w, "en"))).toEqual([
      2, 1, 3, 1, 1,
    ]);
    expect(syllables("jardin", "fr")).toBe(2);
  });
  it("is high for short words in short sentences and low for long ones", () => {
    const easy = readabilityOf(
      ["The gate is open. Come in and see the trees. We have tea and cake."],
      "en",
    )!;
    const hard = readabilityOf(
      [
        "Institutional horticultural organisations increasingly necessitate interdisciplinary collaboration regarding environmental sustainability considerations and administrative responsibilities.",
      ],
      "en",
    )!;
    expect(easy.ease).toBeGreaterThan(80);
    expect(easy).toMatchObject({ sentences: 3, words: 15 });
    expect(hard.ease).toBeLessThan(20);
    expect(readabilityOf(["Too few."], "en")).toBeNull();
  });
});

describe("a subject", () => {
  const earlier = [
    { subject: "Autumn walks begin", opened: 0.5, readers: 1_000 },
    {
      subject: "Autumn colours, and a long story about the trees of the hill",
      opened: 0.3,
      readers: 1_000,
    },
    { subject: "Seeds for spring", opened: 0.6, readers: 1_000 },
    {
      subject: "Everything that you could ever want to know about our bulbs",
      opened: 0.4,
      readers: 3_000,
    },
  ];
  const advise = (subject: string, preview = "") =>
    adviseSubject({ subject, preview, earlier }, "en-GB");
  it("is measured against a small phone", () => {
    expect(advise("Short")).toMatchObject({ length: 5, remarks: [] });
    expect(
      advise("A subject that goes on for so long that nobody sees its end").remarks[0],
    ).toContain("Small phones");
  });
  it("is compared with earlier ones of one’s own", () => {
    const { alike, comparisons } = advise("Autumn walks for two");
    expect(alike.map((one) => one.subject)).toEqual([earlier[0]!.subject, earlier[1]!.subject]);
    expect(comparisons).toEqual([
      "Like this one: up to 40 characters: 55 % opened; longer ones: 38 %.",
    ]);
    expect(
      adviseSubject({ subject: "x", preview: "", earlier: earlier.slice(0, 2) }, "en").comparisons,
    ).toEqual([]);
  });
  it("hears of words that come again", () => {
    expect(advise("Autumn walks begin on Monday").remarks).toContain(
      "Its first words are not new: one earlier subject begins with them.",
    );
    expect(advise("Seeds, seeds").remarks).toContain("“seeds” stands in it twice.");
    expect(advise("Bulbs are here", "Our bulbs in six colours").remarks).toContain(
      "The preview text says “bulbs” again.",
    );
    expect(advise("ACT NOW!").remarks).toHaveLength(2);
  });
});
