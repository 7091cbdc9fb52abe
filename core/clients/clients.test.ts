import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PICTURE, rendered } from "../testing/rendered.ts";
import { samples } from "../testing/samples.ts";
import { readAloud } from "./aloud.ts";
import { FAMILIES, familyOf, showIn } from "./index.ts";
import { readPage, textOf } from "./page.ts";
import { enact } from "./show.ts";

describe.each(FAMILIES.filter(({ acts }) => acts.length > 0))("$label", (family) => {
  const trials = family.acts.flatMap((act) => act.tries.map((one) => ({ act, ...one })));
  it.each(trials)("makes of $html what it shows", ({ act, html, gives }) => {
    expect(enact([act], html).html).toBe(gives);
  });

  it("keeps the words of every block", () => {
    for (const { name, doc } of samples([PICTURE])) {
      const html = lettersOf(rendered(doc, { unfilled: true }).html);
      // Alt text and the table-only engine's own filler come beside what stood there; nothing goes.
      const after = lettersOf(showIn(family, rendered(doc, { unfilled: true }).html).html);
      let at = 0;
      for (const letter of after) if (letter === html[at]) at++;
      expect([name, html.slice(at, at + 40)]).toEqual([name, ""]);
    }
  });
});

/** The letters of an email, without its style sheets. */
const lettersOf = (html: string): string =>
  readPage(html.replace(/<style[\s\S]*?<\/style>/g, ""))
    .children.map((node) => ("attribs" in node ? textOf(node) : ""))
    .join("")
    .replace(/[\s\u00a0]/g, "");

const any = fc.oneof(
  fc.string({ unit: "binary" }),
  fc
    .array(
      fc.constantFrom(
        ...'<td <p style=" </p> <style> </style> a{color:red} @media x{ } \' " ; : > <!--[if mso]> <![endif]--> <v:rect <v:fill/> url( ) <img src=x.webp -->'.split(
          " ",
        ),
      ),
      { maxLength: 40 },
    )
    .map((parts) => parts.join(" ")),
);

it("makes something of whatever HTML there is, and twice the same", () => {
  fc.assert(
    fc.property(any, fc.constantFrom(...FAMILIES), (html, family) => {
      const first = showIn(family, html);
      expect(showIn(family, html)).toEqual(first);
      for (const { places } of first.lost) expect(places).toBeGreaterThan(0);
      readAloud(html);
    }),
    { numRuns: 300 },
  );
});

it("tells what is lost, each once", () => {
  const html = `<p style="border-radius:4px;box-shadow:0 0 1px red">a</p><p style="border-radius:4px">b</p>`;
  expect(showIn(familyOf("tableOnly"), html).lost).toEqual([
    { what: "round corners", places: 2 },
    { what: "shadows", places: 1 },
  ]);
  expect(showIn(familyOf("sent"), html)).toEqual({ html, lost: [] });
});

it("reads an email aloud: what each thing is, in order, and nothing that is hidden", () => {
  const html = `<html lang="en"><head><title>t</title></head><body>
    <div style="display:none">Preview</div>
    <div role="article" aria-label="News" lang="en"><table role="presentation"><tr><td>
      <h1>Hello <b>you</b></h1><p>Read <a href="x">the notebook</a>.</p>
      <img src="/p/abc.png"><img src="b.png" alt=""><a href="y"><img src="c.png" alt="A map"></a>
      <ul><li>One</li><li>Two</li></ul>
      <p lang="fr">Bonjour</p>
      <table><tr><th>Day</th><th>Walk</th></tr><tr><td>Monday</td><td>Hill</td></tr></table>
    </td></tr></table></div></body></html>`;
  expect(readAloud(html).map(({ as, words }) => [as, words].filter(Boolean).join(": "))).toEqual([
    "email: News",
    "heading 1: Hello you",
    "Read [link: the notebook].",
    "image without words, abc.png [link: image: A map ]",
    "list: 2 items",
    "item: One",
    "item: Two",
    "language: French",
    "Bonjour",
    "language: English",
    "table: 2 rows, 2 columns",
    "header: Day",
    "header: Walk",
    "Monday",
    "Hill",
    "end of table",
  ]);
});
