import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { apply } from "../document/index.ts";
import { goodEmails } from "../testing/good-emails.ts";
import { MISTAKES } from "../testing/mistakes.ts";
import { PICTURE } from "../testing/rendered.ts";
import { samples } from "../testing/samples.ts";
import { runChecks } from "./index.ts";

/** The rows of the list: number, mistake, and the check that finds it. */
const listed = [
  ...readFileSync("fixtures/mistakes.md", "utf8").matchAll(/^\| (\d+) \| (.+) \| (.+) \|$/gm),
].map(([, number, mistake, check]) => ({ number: Number(number), mistake, check: check! }));
/** Spelling is looked at on the server, where the dictionaries are. */
const SERVERS = new Set(["spelling"]);

it("knows sixty mistakes, each with what makes it", () => {
  expect(listed.map(({ number }) => number)).toEqual(Array.from({ length: 60 }, (_, i) => i + 1));
  expect(Object.keys(MISTAKES).map(Number)).toEqual(listed.map(({ number }) => number));
});

it.each(goodEmails())(
  "find nothing in the good email “$name”",
  ({ doc, around, fields, readers }) => {
    expect(
      runChecks(doc, around, fields, readers).map(
        (one) => `${one.check}: ${one.message} ${one.detail}`,
      ),
    ).toEqual([]);
  },
);

/** What blocks as they come, and with all they can have, are rightly told: words to write over, links to set. */
const UNFINISHED = new Set(
  "placeholder outline empty-link no-picture contrast countdown live html-removed fallback".split(
    " ",
  ),
);

it("say nothing false of any block of the gallery", () => {
  const [good] = goodEmails();
  const { around, fields, readers } = good!;
  const said = samples([PICTURE]).flatMap(({ name, doc, live }) => {
    const { envelope } = good!.doc.root.props;
    const children = [...doc.root.children, ...good!.doc.root.children];
    const root = { ...doc.root, props: { ...doc.root.props, envelope: envelope! }, children };
    return runChecks({ ...doc, root }, { ...around, live }, fields, readers)
      .filter(({ severity, check }) => severity !== "hint" && !UNFINISHED.has(check))
      .map(({ check }) => `${name}: ${check}`);
  });
  // It has what comes apart on purpose.
  expect([...new Set(said)]).toEqual(["html-odd: unsupported"]);
});

describe.each(goodEmails())("in the good email “$name”", (scene) => {
  it("each mistake is found", () => {
    const found = listed
      .filter(({ check }) => !SERVERS.has(check))
      .filter(({ number, check }) => {
        const made = MISTAKES[number]!(scene);
        if (made === null) return check !== "the link itself";
        const { doc, around, fields, readers } = made;
        return !runChecks(doc, around, fields, readers).some((one) => one.check === check);
      })
      .map(({ number, mistake }) => `${number}: ${mistake}`);
    expect(found).toEqual([]);
  });

  it("each mend leaves a valid document, in which it is found no more", () => {
    for (const { number } of listed) {
      const made = MISTAKES[number]!(scene);
      if (made === null) continue;
      const { doc, around, fields, readers } = made;
      const key = (one: { check: string; at: string; message: string }) =>
        `${one.check} ${one.at} ${one.message}`;
      for (const one of runChecks(doc, around, fields, readers)) {
        for (const { edits, label } of one.mends ?? []) {
          const mended = edits.reduce(apply, doc);
          const left = runChecks(mended, around, fields, readers).map(key);
          expect([label, left.includes(key(one))]).toEqual([label, false]);
        }
      }
    }
  });
});
