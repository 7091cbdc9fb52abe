import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { apply, type EmailDocument } from "#core/document/index.ts";
import { goodEmails } from "#core/testing/good-emails.ts";
import { MISTAKES } from "#core/testing/mistakes.ts";
import { PICTURE } from "#core/testing/rendered.ts";
import { samples } from "#core/testing/samples.ts";
import { lookUp } from "./dictionaries.ts";
import { spellerIn } from "./speller.ts";
import { spellingOf } from "./spelling.ts";

const ours = new Set(["larkmoor"]);
const findingsOf = (doc: EmailDocument) => spellingOf(lookUp, doc, ours);

it("finds nothing in good emails, and in no block of the gallery", async () => {
  for (const { doc } of [...goodEmails(), ...samples([PICTURE])]) {
    expect((await findingsOf(doc)).map(({ word }) => word)).toEqual([]);
  }
});

it("finds the misspelled words of the list in each good email, and mends them", async () => {
  const [, number] = /^\| (\d+) \| .* \| spelling \|$/m.exec(
    readFileSync("fixtures/mistakes.md", "utf8"),
  )!;
  for (const scene of goodEmails()) {
    const made = MISTAKES[Number(number)]!(scene)!;
    const found = await findingsOf(made.doc);
    if (scene.name === "french") continue;
    expect(found.map(({ word }) => word)).toEqual(["glashouse", "untill"]);
    for (const { detail, mends } of found) {
      expect(detail).toBe(
        mends!.length ? "It may be misspelled." : "It may be misspelled, or a name.",
      );
    }
    const mended = found.reduceRight(
      (doc, { mends }) => mends![0]!.edits.reduce(apply, doc),
      made.doc,
    );
    expect(await findingsOf(mended)).toEqual([]);
  }
});

it("knows words by their language, with their endings, and takes names and parts of addresses for none", async () => {
  const wrong = async (lang: string, ...words: string[]) => [...(await lookUp(words, lang)).keys()];
  expect(await wrong("en-GB", "colour", "gardeners", "don’t", "warden’s", "half-open")).toEqual([]);
  expect(await wrong("en-US", "color", "colour")).toEqual(["colour"]);
  expect(await wrong("fr", "l’espèce", "aujourd’hui", "jardins", "éspeces")).toEqual(["éspeces"]);
  expect(await wrong("ar", "anything")).toEqual([]);
  expect((await lookUp(["gardenerr"], "en")).get("gardenerr")).toContain("gardener");
});

it("guesses for as long as it may, and tells the rest without", async () => {
  const words = ["gaate", "flowerr", "benchh"];
  const wrong = await lookUp(words, "en-AU", -1);
  expect([...wrong]).toEqual(words.map((word) => [word, []]));
  // Another time there is time.
  expect((await lookUp(words, "en-AU")).get("gaate")).toContain("gate");
  expect(
    (await lookUp(["xqzjkvwpxqzjkvwpxqzjkvwp"], "fr", 60_000)).get("xqzjkvwpxqzjkvwpxqzjkvwp"),
  ).toEqual([]);
});

it("is asked in a thread of its own, and does without one that fails or does not answer", async () => {
  const speller = spellerIn(new URL("./spelling-worker.ts", import.meta.url), 20_000);
  const [english, french] = await Promise.all([
    speller(["gate", "gaate"], "en"),
    speller(["jardin", "éspeces"], "fr"),
  ]);
  expect([...english.keys()]).toEqual(["gaate"]);
  expect([...french.keys()]).toEqual(["éspeces"]);
  const script = (text: string) => new URL(`data:text/javascript,${encodeURIComponent(text)}`);
  const broken = spellerIn(script("throw new Error('no')"));
  expect((await broken(["gaate"], "en")).size).toBe(0);
  const silent = spellerIn(script("setInterval(() => {}, 1000)"), 50);
  expect((await silent(["gaate"], "en")).size).toBe(0);
  expect((await silent(["gaate"], "en")).size).toBe(0);
});
