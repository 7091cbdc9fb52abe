/**
 * Emails made elsewhere: `import_html_vs_parse5` (taking 200 KB apart, over parsing it; at most 6), `import_words_kept`
 * (share of words, links and images of the corpus that are kept; at least 0.995), `import_taken_apart` (share of its
 * words that stand in real blocks; at least 0.85), `import_deep_growth_4x` and `import_long_growth_4x` (taking apart
 * what is four times as deep, or as long; at most 6).
 */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "parse5";
import { walk } from "#core/document/index.ts";
import { readForeign, takeApart } from "#core/import/emails/index.ts";
import { SHIPPED } from "#core/templates/index.ts";
import { keptOf, taking } from "#core/testing/foreign.ts";
import { rendered } from "#core/testing/rendered.ts";
import { projectRoot } from "#server/root.ts";
import { least } from "./people-database.ts";
import type { Figure } from "./run.ts";

const BYTES = 200_000;
/** As much of the corpus as an email of ours can hold: it is all content. */
const DENSE = 150_000;
const ROUNDS = 25;

/** What somebody sends who means harm: how it is made, and how much of it. */
const GROWING: readonly [string, (n: number) => string, number][] = [
  [
    "import_deep_growth_4x",
    (n) => `${"<table><tr><td>".repeat(n)}down${"</td></tr></table>".repeat(n)}`,
    2_000,
  ],
  [
    "import_long_growth_4x",
    (n) =>
      `<div>${"<p>Some words <b>here</b> and <a href='https://x.example/'>there</a>.</p>".repeat(n)}</div>`,
    4_000,
  ],
];

const bodyOf = (html: string) => /<body[^>]*>([\s\S]*)<\/body>/i.exec(html)?.[1] ?? html;
const wordsIn = (text: string) => text.match(/[\p{L}\p{N}]+/gu)?.length ?? 0;

/** Bodies in a row until they are as long as they should be. */
function longOf(sources: readonly string[], bytes: number): string {
  let long = "";
  for (let i = 0; long.length < bytes; i++) long += bodyOf(sources[i % sources.length]!);
  return `<html><body>${long.slice(0, bytes)}</body></html>`;
}

export async function foreignGroup(figure: Figure): Promise<void> {
  const folder = join(projectRoot(), "fixtures/emails");
  const sources = readdirSync(folder)
    .filter((name) => name.endsWith(".html"))
    .map((name) => readFileSync(join(folder, name), "utf8"));

  // An email of that length as systems write them: tables, styles and comments around every few words.
  const html = longOf(
    SHIPPED.map(({ make }) => rendered(make(null)).html),
    BYTES,
  );
  const parsing = await least(ROUNDS, async () => void parse(html));
  const apart = await least(ROUNDS, async () => void takeApart(readForeign(html), taking()));
  console.log(`parsing ${parsing.toFixed(1)} ms, taking apart ${apart.toFixed(1)} ms`);
  figure("import_html_vs_parse5", apart / parsing);

  // The corpus is all content: hardly a style, and a block for every 140 letters.
  const dense = longOf(sources, DENSE);
  const least2 = [
    await least(ROUNDS, async () => void parse(dense)),
    await least(ROUNDS, async () => void takeApart(readForeign(dense), taking())),
  ] as const;
  console.log(`of the corpus: ${(least2[1] / least2[0]).toFixed(1)} times`);

  let [kept, all, html_, words] = [0, 0, 0, 0];
  for (const source of sources) {
    const foreign = readForeign(source);
    const { doc, kept: share } = keptOf(foreign);
    for (const [some, of] of Object.values(share)) {
      kept += some;
      all += of;
    }
    words += share.words[1];
    for (const node of walk(doc.root)) {
      if (node.type === "html")
        html_ += wordsIn(String(node.props.source).replace(/<[^>]*>/g, " "));
    }
  }
  figure("import_words_kept", kept / all);
  figure("import_taken_apart", 1 - html_ / words);

  for (const [name, made, size] of GROWING) {
    const taking_ = (n: number) =>
      least(5, async () => void takeApart(readForeign(made(n)), taking()));
    figure(name, (await taking_(4 * size)) / (await taking_(size)));
  }
}
