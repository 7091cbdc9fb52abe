/** Feeds as they are found, and what must come of them: `fixtures/feeds`, each beside what is expected. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { expect, it } from "vitest";
import { LIMITS } from "../../limits.ts";
import type { FeedItem } from "./feed-item.ts";
import { FeedError, feedsOfPage, type ReadFeed, readFeed } from "./index.ts";

const FOLDER = join(import.meta.dirname, "../../../fixtures/feeds");
const NOW = new Date("2026-03-10T10:00:00Z");
const ADDRESS = "https://notes.example/feed.xml";
const read = (bytes: Uint8Array) => readFeed(bytes, { address: ADDRESS, now: NOW });
const bytesOf = (text: string) => new TextEncoder().encode(text);

type Expected =
  | { error: string }
  | {
      title: string;
      home: string;
      leftOut?: number;
      items: (Partial<Omit<FeedItem, "published">> & {
        published?: string | null;
        titleLength?: number;
        summaryMost?: number;
      })[];
    };

const files = readdirSync(FOLDER).filter((name) => !name.endsWith(".expected.json"));

it.each(files)("reads %s", (file) => {
  const expected = JSON.parse(
    readFileSync(join(FOLDER, file.replace(/\.\w+$/, ".expected.json")), "utf8"),
  ) as Expected;
  const bytes = readFileSync(join(FOLDER, file));
  if ("error" in expected) {
    expect(() => read(bytes)).toThrow(new FeedError(expected.error));
    return;
  }
  const feed = read(bytes);
  expect({ title: feed.title, home: feed.home, leftOut: feed.leftOut }).toEqual({
    title: expected.title,
    home: expected.home,
    leftOut: expected.leftOut ?? 0,
  });
  expect(feed.items).toHaveLength(expected.items.length);
  for (const [i, { published, titleLength, summaryMost, ...item }] of expected.items.entries()) {
    const found = feed.items[i]!;
    expect(found).toMatchObject(item);
    if (published !== undefined) expect(found.published?.toISOString() ?? null).toBe(published);
    if (titleLength !== undefined) expect([...found.title]).toHaveLength(titleLength);
    if (summaryMost !== undefined) {
      expect(found.summary.length).toBeLessThanOrEqual(summaryMost);
      expect(found.summary.length).toBeGreaterThan(summaryMost / 2);
    }
  }
});

/** What holds for whatever anybody serves. */
function isSound({ title, home, items }: ReadFeed): void {
  expect(title.length).toBeLessThanOrEqual(LIMITS.nameLength);
  expect(items.length).toBeLessThanOrEqual(LIMITS.itemsPerSource);
  expect(new Set(items.map(({ key }) => key)).size).toBe(items.length);
  for (const address of [home, ...items.flatMap(({ link, picture }) => [link, picture])]) {
    if (address !== "") expect(new URL(address).protocol).toMatch(/^https?:$/);
  }
  for (const { title, summary, published } of items) {
    expect(title).not.toBe("");
    expect([...title].length).toBeLessThanOrEqual(LIMITS.itemTitle);
    expect([...summary].length).toBeLessThanOrEqual(LIMITS.itemSummary);
    if (published) expect(published.getTime()).toBeLessThanOrEqual(NOW.getTime() + 86_400_000);
  }
}

it("gives sound items or says what is wrong, whatever is served", () => {
  const served = files
    .filter((file) => !file.startsWith("bad"))
    .map((file) => readFileSync(join(FOLDER, file)));
  fc.assert(
    fc.property(
      fc.constantFrom(...served),
      fc.array(
        fc.tuple(
          fc.nat(),
          fc.constantFrom("cut", "double", "swap"),
          fc.uint8Array({ maxLength: 12 }),
        ),
      ),
      (bytes, damages) => {
        let damaged = Buffer.from(bytes);
        for (const [where, how, more] of damages) {
          const at = where % (damaged.length + 1);
          const [head, tail] = [damaged.subarray(0, at), damaged.subarray(at)];
          if (how === "cut") damaged = Buffer.concat([head, tail.subarray(more.length)]);
          else if (how === "swap")
            damaged = Buffer.concat([head, more, tail.subarray(more.length)]);
          else damaged = Buffer.concat([head, tail, tail.subarray(0, 400)]);
        }
        try {
          isSound(read(damaged));
        } catch (error) {
          if (!(error instanceof FeedError)) throw error;
        }
      },
    ),
    { numRuns: 400 },
  );
});

it("keeps the first items of a long feed, and comes to an end with a hostile one", () => {
  const item = (i: number) =>
    `<item><title>${i}</title><link>https://notes.example/${i}</link></item>`;
  const rss = (items: string) =>
    `<rss version="2.0"><channel><title>x</title>${items}</channel></rss>`;
  const many = read(bytesOf(rss(Array.from({ length: 3_000 }, (_, i) => item(i)).join(""))));
  expect(many.items).toHaveLength(LIMITS.itemsPerSource);
  expect(many.items[0]!.title).toBe("0");
  const hostile = [
    rss(`<item><title>${"<".repeat(300_000)}</title></item>`),
    rss(`<item><title>x</title><description>${"&lt;b&gt;".repeat(100_000)}</description></item>`),
    `{${'"a":['.repeat(100_000)}`,
    rss(
      `<item><title>x</title><description><![CDATA[${"<!--".repeat(100_000)}]]></description></item>`,
    ),
    `<?xml version="1.0"?>${" ".repeat(2_000_000)}<rss`,
    `<!DOCTYPE ${"a".repeat(1_000_000)}`,
  ];
  for (const text of hostile) {
    try {
      isSound(read(bytesOf(text)));
    } catch (error) {
      if (!(error instanceof FeedError)) throw error;
    }
  }
});

it("finds the feeds a page names, in order and once each", () => {
  const page = `<!doctype html><html><head><base href="https://notes.example/blog/">
    <link rel="alternate" type="application/rss+xml" title="Notes" href="feed.xml">
    <link rel="stylesheet" type="text/css" href="a.css">
    <link rel="alternate" hreflang="fr" type="text/html" href="/fr">
    <link rel="ALTERNATE home" type="application/atom+xml; charset=utf-8" href="/atom.xml">
    <link rel="alternate" type="application/rss+xml" href="feed.xml">
    <link rel="alternate" type="application/feed+json" href="javascript:alert(1)"></head></html>`;
  expect(feedsOfPage(bytesOf(page), { address: "https://notes.example/" })).toEqual([
    { address: "https://notes.example/blog/feed.xml", title: "Notes" },
    { address: "https://notes.example/atom.xml", title: "" },
  ]);
});

it("spells addresses as the platform does, however plain they look", () => {
  const part = fc.constantFrom(
    "a",
    "B",
    "..",
    ".",
    "",
    "-",
    "1",
    "x_y",
    "~z",
    "%41",
    "c d",
    "é",
    "?q=1",
  );
  const host = fc.constantFrom(
    "a.example",
    "A.example",
    "a.b-c.example",
    "1.2.3.4",
    "a.example:443",
    "a",
    "a..b",
    "0x7f.1",
  );
  fc.assert(
    fc.property(host, fc.array(part, { maxLength: 4 }), (name, parts) => {
      const written = `https://${name}/${parts.join("/")}`;
      const feed = JSON.stringify({
        version: "https://jsonfeed.org/version/1.1",
        ...{ title: "x", items: [{ id: "1", url: written, content_text: "words" }] },
      });
      const { items } = readFeed(Buffer.from(feed), {
        address: "https://x.example/f",
        now: new Date(),
      });
      const wanted = URL.canParse(written) ? new URL(written).href : "";
      expect([written, items[0]!.link]).toEqual([written, wanted]);
    }),
  );
});
