/** Blocks of items: designed once, shown with each; for all readers, or for each their own. */
import { Liquid } from "liquidjs";
import { describe, expect, it } from "vitest";
import { runChecks } from "../checks/index.ts";
import { ITEM_LISTS, mayHold, walk } from "../document/index.ts";
import { toLiquid } from "../export/liquid/index.ts";
import { type LiveItem, newChoice } from "../items/index.ts";
import { type LiveList, liveRef } from "../kinds/kind.ts";
import { refsIn } from "../mentions/index.ts";
import { mergeText, prepare, type Reader, refsOf } from "../merge/index.ts";
import { compile, compileNode, itemSays } from "../render/index.ts";
import { anItem } from "../testing/items.ts";
import { DIRECT, emailOf, ids, PICTURE, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, paragraph, phrase, tag } from "../text/index.ts";
import { partsOf } from "../versions/index.ts";
import { choicesIn } from "./choices.ts";
import { blockKind, checkDocument, createBlock } from "./index.ts";
import type { ItemListProps } from "./item-list.ts";

const bean = anItem({
  key: "bean",
  title: "Broad <bean>",
  picture: PICTURE,
  values: {
    ...{ link: "https://shop.example/bean?a=1&b=2", summary: "Tall & early." },
    ...{ price: 2.8, sale_price: 2.1, currency: "GBP" },
  },
});
const pea = anItem({
  key: "pea",
  title: "Pea",
  values: { link: "https://shop.example/pea", price: 3 },
});
const bare = anItem({ key: "bare", title: "Bare", values: { link: "javascript:alert(1)" } });

interface Made {
  readonly props?: Partial<ItemListProps>;
  readonly items?: readonly LiveItem[];
  readonly perReader?: LiveList["perReader"];
  readonly type?: string;
}
function made({ props = {}, items = [bean, pea], perReader = null, type = "shelf" }: Made = {}) {
  const block = createBlock(type, ids("s"), props);
  const email = emailOf([block]);
  const live = new Map([[block.id, { items, perReader }]]);
  const around = { ...SURROUNDINGS, live };
  return { block, email, around, compiled: compile(email, around) };
}
const NOBODY: Reader = { values: {}, token: "t" };
function read(compiled: ReturnType<typeof compile>, reader = NOBODY, options = DIRECT) {
  const prepared = prepare(compiled, options);
  return { html: mergeText(prepared.html, reader), text: mergeText(prepared.text, reader) };
}
const count = (text: string, words: string) => text.split(words).length - 1;

describe.each(ITEM_LISTS)("a new %s", (type) => {
  it("has a design of ordinary blocks, and each of its designs is whole", () => {
    const kind = blockKind(type)!;
    for (const design of kind.designs!) {
      const newId = ids(design.id);
      const block = createBlock(type, newId, design.props, design.blocks(newId));
      checkDocument(emailOf([block]));
      const refs = [...walk(block)].flatMap((node) => refsIn(node));
      expect(refs.some((ref) => ref.startsWith("item:"))).toBe(true);
    }
    expect(mayHold(type, "card")).toBe(false);
    expect(mayHold(type, type)).toBe(false);
    expect(mayHold("card", type)).toBe(false);
  });
});

it("shows each item after the one design: its words, its image, where it leads, what it costs", () => {
  const { compiled } = made();
  const { html, text } = read(compiled);
  expect(html).toContain("Broad &lt;bean&gt;");
  expect(html).toContain('alt="Broad &lt;bean&gt;"');
  expect(count(html, 'href="https://shop.example/bean?a=1&amp;b=2"')).toBe(1);
  expect(html).toContain("<strong>£2.10</strong>");
  expect(html).toContain("<s>£2.80</s>");
  expect(html).toContain("<strong>£3.00</strong>");
  expect(text).toContain("Broad <bean>");
  expect(text.indexOf("Pea")).toBeGreaterThan(text.indexOf("Broad"));
  expect(compiled.links.map(({ to }) => to)).toContainEqual({
    kind: "web",
    address: line("https://shop.example/bean?a=1&b=2"),
  });
  // Its own values are no reader's.
  expect(refsOf(compiled)).toEqual([]);
});

it("leads nowhere where an item has no safe address, and encodes what stands in one", () => {
  const link = {
    kind: "web" as const,
    address: line("https://a.example/?q=", tag("item:title", "")),
  };
  const newId = ids("d");
  const button = createBlock("button", newId, { to: link, label: line("See") });
  const block = createBlock("shelf", newId, {}, [button]);
  const email = emailOf([block]);
  const around = {
    ...SURROUNDINGS,
    live: new Map([[block.id, { items: [bean, bare], perReader: null }]]),
  };
  const { html } = read(compile(email, around));
  expect(html).toContain('href="https://a.example/?q=Broad%20%3Cbean%3E"');
  const whole = read(made({ items: [bare], props: { whole: true } }).compiled).html;
  expect(whole).not.toContain("javascript");
});

it("makes all of an item a link where that is wanted", () => {
  const { html } = read(made({ props: { whole: true }, items: [pea] }).compiled);
  expect(count(html, 'href="https://shop.example/pea"')).toBeGreaterThan(1);
});

it("sets the first apart, and cuts images to one shape", () => {
  const lead = read(
    made({ props: { lead: true, perRow: 2 }, items: [bean, pea, bare] }).compiled,
  ).html;
  const plain = read(
    made({ props: { lead: false, perRow: 2 }, items: [bean, pea, bare] }).compiled,
  ).html;
  const width = (html: string) => Number(/<img[^>]*width="(\d+)"/.exec(html)![1]);
  expect(width(lead)).toBeGreaterThan(1.8 * width(plain));
  const square = /width="(\d+)" height="(\d+)"/.exec(
    read(made({ props: { shape: 100 }, items: [bean] }).compiled).html,
  )!;
  expect(square[1]).toBe(square[2]);
});

it("carries the marks of the sheet with its first item alone", () => {
  const { block, email, around, compiled } = made();
  const { html } = read(compiled, NOBODY, { ...DIRECT, marks: true });
  for (const { id } of [block, ...block.children]) {
    expect([id, count(html, `data-node="${id}"`)]).toEqual([id, 1]);
  }
  expect(count(html, 'data-tag="item:title"')).toBe(1);
  // A block of the design made again says what the first item says.
  const heading = block.children.find(({ type }) => type === "heading")!;
  const again = compileNode(email, heading.id, around)!;
  expect(mergeText(prepare({ ...compiled, html: again.segments }, DIRECT).html, NOBODY)).toContain(
    "Broad &lt;bean&gt;",
  );
});

describe("where there is no item", () => {
  const empty = (props: Partial<ItemListProps>) => read(made({ items: [], props }).compiled);
  it("says so, shows nothing, or takes its band away", () => {
    const words = { emptyWords: line("Nothing today.") };
    expect(empty({ empty: "words", ...words }).html).toContain("Nothing today.");
    expect(empty({ empty: "words", ...words }).text).toContain("Nothing today.");
    expect(empty({ empty: "nothing", ...words }).html).not.toContain("Nothing today.");
    const { compiled, email } = made({ items: [], props: { empty: "band" } });
    const band = email.root.children[0]!.id;
    expect(read(compiled).html).not.toContain("data-node");
    expect(read(compiled, NOBODY, { ...DIRECT, marks: true, unfilled: true }).html).toContain(band);
    expect(empty({ empty: "band" }).html.length).toBeLessThan(
      empty({ empty: "nothing" }).html.length,
    );
  });

  it("shows its design on the sheet, so that it can be made", () => {
    const { compiled, block } = made({ items: [] });
    const sheet = read(compiled, NOBODY, { ...DIRECT, marks: true }).html;
    for (const { id } of block.children) expect(sheet).toContain(`data-node="${id}"`);
  });
});

describe("items of each reader's own", () => {
  const standard = ["shop:pea"];
  const choice = newChoice({ match: { field: "categories", reader: "topics" } });
  const own = made({
    items: [bean, pea, bare],
    perReader: { standard },
    props: { choice, perRow: 2 },
  });
  const ref = liveRef(own.block.id);
  const of = (...keys: string[]): Reader => ({
    values: { [ref]: keys.map((key) => `shop:${key}`) },
    token: "t",
  });

  it("are what their values say, in that order; those of whom nothing is known have the standard", () => {
    const { html, text } = read(own.compiled, of("pea", "bean"));
    expect(html.indexOf("Pea")).toBeLessThan(html.indexOf("Broad"));
    expect(html).not.toContain("Bare");
    expect(text.indexOf("Pea")).toBeLessThan(text.indexOf("Broad"));
    expect(read(own.compiled).html).toContain("Pea");
    expect(read(own.compiled).html).not.toContain("Broad");
    expect(read(own.compiled, of()).html).not.toContain("Pea");
    expect(read(own.compiled, of("gone", "bare")).html).toContain("Bare");
  });

  it("are byte for byte what a block with just these items is", () => {
    for (const keys of [["pea"], ["pea", "bean"], ["bare", "pea", "bean"]]) {
      const items = keys.map((key) => [bean, pea, bare].find((one) => one.key === key)!);
      const fixed = made({ items, props: { choice, perRow: 2 } });
      // The head has the looks of all that anybody can have.
      const body = ({ html, text }: ReturnType<typeof read>) => [html.split("</head>")[1], text];
      expect(body(read(own.compiled, of(...keys)))).toEqual(body(read(fixed.compiled)));
    }
  });

  it("have their links counted, whoever gets them, and make no versions", () => {
    const addresses = own.compiled.links.map(({ to }) => JSON.stringify(to));
    expect(addresses.some((to) => to.includes("/bean"))).toBe(true);
    expect(addresses.some((to) => to.includes("/pea"))).toBe(true);
    const tracked = read(own.compiled, of("bean"), { ...DIRECT, links: "tracked" }).html;
    const numbers = [...tracked.matchAll(/\/c\/t\/(\d+)/g)].map((found) => Number(found[1]));
    expect(numbers.map((n) => JSON.stringify(own.compiled.links[n - 1]!.to)).join()).toContain(
      "/bean",
    );
    expect(numbers).not.toContain(0);
    expect(partsOf(own.compiled)).toEqual([]);
    expect(refsOf(own.compiled)).toEqual(["contact:topics", ref]);
  });

  it("are a named loop in Liquid, which any engine merges to the same", async () => {
    const template = toLiquid(own.compiled);
    const engine = new Liquid();
    for (const reader of [of("pea"), of("bean", "pea"), of(), NOBODY]) {
      const merged = await engine.parseAndRender(template.html, template.variables(reader));
      expect(merged).toBe(read(own.compiled, reader).html);
    }
  });
});

it("may have words of the reader in the design, and parts that only some see", () => {
  const rule = { type: "list", list: "friends", is: true } as const;
  const newId = ids("d");
  const hello = createBlock("text", newId, {
    words: doc(paragraph("For ", tag("contact:first_name", "you"), ": ", tag("item:title", ""))),
  });
  const some = createBlock("heading", newId, { words: phrase("Friends pay less"), seenBy: rule });
  const block = createBlock("digest", newId, {}, [hello, some]);
  const email = emailOf([block]);
  const live = new Map([[block.id, { items: [pea, bare], perReader: null }]]);
  const compiled = compile(email, { ...SURROUNDINGS, live });
  expect(refsOf(compiled)).toEqual(["contact:first_name"]);
  const reader = { values: { "contact:first_name": "Amélie" }, token: "t" };
  expect(count(read(compiled, { ...reader, bits: "1" }).html, "Friends pay less")).toBe(2);
  const other = read(compiled, { ...reader, bits: "0" }).html;
  expect(count(other, "Friends pay less")).toBe(0);
  expect(other).toContain("For Amélie: Pea");
});

it("fills fields in words written by hand and in HTML of one's own", () => {
  const newId = ids("d");
  const plain = { source: "Now: {{ item.title }}!", of: "x" };
  const hello = createBlock("text", newId, { plain });
  const code = createBlock("html", newId, { source: "<p>Own {{ item.pays }}</p>" });
  const block = createBlock("shelf", newId, {}, [hello, code]);
  const live = new Map([[block.id, { items: [bean, pea], perReader: null }]]);
  const { html, text } = read(compile(emailOf([block]), { ...SURROUNDINGS, live }));
  expect(text).toContain("Now: Broad <bean>!");
  expect(text).toContain("Now: Pea!");
  expect(html).toContain("<p>Own £2.10</p>");
});

it("gives an event's calendar file an address of our own", () => {
  const event = anItem({ source: "walks", key: "a/b ?", kind: "calendar" });
  expect(
    itemSays(event, "calendar_file", {
      lang: "en-GB",
      base: "https://mail.example.org",
      zoneField: null,
    }),
  ).toBe("https://mail.example.org/e/walks/a%2Fb%20%3F");
});

it("says when an event is by the reader's own clock, where that shows another time", () => {
  const walk = anItem({
    ...{ kind: "calendar", title: "Walk", at: Date.UTC(2026, 6, 4, 17) },
    values: { minutes: 120, zone: "Europe/London" },
  });
  const newId = ids("d");
  const block = createBlock("events", newId);
  const live = new Map([[block.id, { items: [walk], perReader: null }]]);
  const around = { ...SURROUNDINGS, live, zoneField: "zone" };
  const compiled = compile(emailOf([block]), around);
  expect(refsOf(compiled)).toEqual(["contact:zone"]);
  const of = (zone: string) =>
    read(compiled, { values: { "contact:zone": zone }, token: "t" }).text.replace(/\s+/g, " ");
  expect(of("Europe/Paris")).toMatch(
    /Saturday 4 July 2026, 18:00–20:00 \(Saturday 4 July 2026, 19:00–21:00 (CEST|GMT\+2)\)/,
  );
  for (const same of ["Europe/London", "Europe/Lisbon", "", "Moon/Base"]) {
    expect(of(same)).toContain("18:00–20:00 ");
    expect(of(same)).not.toContain("(");
  }
  // Where nobody's zone is known, it is not asked for.
  expect(refsOf(compile(emailOf([block]), { ...around, zoneField: null }))).toEqual([]);
});

it("counts the days until each of several events", () => {
  const newId = ids("d");
  const until = tag("item:starts", "", { type: "days", to: "until" });
  const block = createBlock("events", newId, {}, [
    createBlock("text", newId, { words: doc(paragraph("In ", until)) }),
  ]);
  const on = (starts: string) => anItem({ kind: "calendar", key: starts, values: { starts } });
  const live = new Map([
    [block.id, { items: [on("2026-06-03"), on("2026-06-09")], perReader: null }],
  ]);
  const compiled = compile(emailOf([block]), { ...SURROUNDINGS, live });
  const { text } = read(compiled, { values: { "campaign:today": "2026-06-01" }, token: "t" });
  expect(text).toContain("In 2 days");
  expect(text).toContain("In 8 days");
});

it("is named by what chooses in it", () => {
  const { email, block } = made({ type: "digest" });
  expect(choicesIn(email)).toEqual([{ node: block.id, kind: "feed", choice: block.props.choice }]);
});

describe("the checks", () => {
  const find = (all: Made, now?: number) => {
    const { email, around } = made(all);
    const readers = {
      ...{ conditions: [], groups: [], problems: [], today: "2026-06-01" },
      ...(now !== undefined && { now }),
      empty: new Map(all.perReader ? [["s1", 214]] : []),
    };
    return runChecks(email, around, new Map(), readers)
      .filter(({ check }) => check === "live" || check === "stray-field")
      .map(({ severity, message }) => [severity, message]);
  };
  const picking = (...keys: string[]) => ({
    props: { choice: newChoice({ picked: keys.map((key) => ({ source: "shop", key })) }) },
  });

  it("find what is not picked, is gone, sold out or over", () => {
    expect(find({ type: "product", items: [] })).toEqual([["stop", "No product is picked"]]);
    expect(find({ ...picking("bean", "lost"), items: [bean] })).toEqual([
      ["stop", "A product is gone from its source"],
    ]);
    expect(find({ ...picking("bean"), items: [bean] })).toEqual([]);
    const none = { ...bean, values: { ...bean.values, stock: 0 } };
    expect(find({ items: [none] })).toEqual([["look", "“Broad <bean>” is sold out"]]);
    const walk = anItem({ kind: "calendar", title: "Walk", at: 1_000, values: { minutes: 1 } });
    expect(find({ type: "events", items: [walk] }, 70_000)).toEqual([["look", "“Walk” is over"]]);
    expect(find({ type: "events", items: [walk] }, 60_000)).toEqual([]);
  });

  it("find where nothing fits, for everybody or for some", () => {
    expect(find({ items: [] })).toEqual([["look", "Shelf: nothing fits for everybody"]]);
    expect(find({ items: [bean], perReader: { standard: [] } })).toEqual([
      ["look", "Shelf: nothing fits for 214 readers"],
    ]);
  });

  it("find a field of an item that stands in no design", () => {
    const email = emailOf([
      createBlock("text", ids("t"), { words: doc(paragraph(tag("item:title", ""))) }),
    ]);
    const found = runChecks(email, SURROUNDINGS, new Map()).filter(
      ({ check }) => check === "stray-field",
    );
    expect(found).toMatchObject([{ severity: "stop", at: "t1", in: ["words"] }]);
  });
});
