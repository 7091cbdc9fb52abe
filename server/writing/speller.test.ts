import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { passagesOf, spelling, wordsToSpell } from "#core/checks/index.ts";
import { apply, type EmailDocument } from "#core/document/index.ts";
import { goodEmails } from "#core/testing/good-emails.ts";
import { MISTAKES } from "#core/testing/mistakes.ts";
import { PICTURE } from "#core/testing/rendered.ts";
import { samples } from "#core/testing/samples.ts";
import { misspelled } from "./speller.ts";

const ours = new Set(["larkmoor"]);
async function findingsOf(doc: EmailDocument) {
  const passages = passagesOf(doc);
  const wrong = new Map<string, ReadonlyMap<string, readonly string[]>>();
  for (const [lang, words] of wordsToSpell(passages, ours)) {
    wrong.set(lang, await misspelled(words, lang));
  }
  return spelling(passages, ours, wrong);
}

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
    const mended = found.reduceRight(
      (doc, { mends }) => mends![0]!.edits.reduce(apply, doc),
      made.doc,
    );
    expect(await findingsOf(mended)).toEqual([]);
  }
});

it("knows words by their language, with their endings, and takes names and parts of addresses for none", async () => {
  const wrong = async (lang: string, ...words: string[]) => [
    ...(await misspelled(words, lang)).keys(),
  ];
  expect(await wrong("en-GB", "colour", "gardeners", "don’t", "warden’s", "half-open")).toEqual([]);
  expect(await wrong("en-US", "color", "colour")).toEqual(["colour"]);
  expect(await wrong("fr", "l’espèce", "aujourd’hui", "jardins", "éspeces")).toEqual(["éspeces"]);
  expect(await wrong("ar", "anything")).toEqual([]);
  expect((await misspelled(["gardenerr"], "en")).get("gardenerr")).toContain("gardener");
});
