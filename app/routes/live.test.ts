/** What the composer asks of sources, what shops tell, and calendar files: asked well and badly. */
import { createHmac } from "node:crypto";
import ICAL from "ical.js";
import { afterAll, beforeAll, expect, it } from "vitest";
import { newChoice } from "#core/items/index.ts";
import type { Vocabulary } from "#server/audience/vocabulary.ts";
import { addSourceAt } from "#server/sources/adding.ts";
import { readSource } from "#server/sources/reading.ts";
import { searchItems } from "#server/store/items.ts";
import { getSource } from "#server/store/sources.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import type { ChosenAnswer, ItemPage } from "../compose/wire.ts";
import { isPublic } from "../public.ts";
import { answered, routeArgs } from "../testing/route.ts";
import { action as chosen } from "./api.chosen.ts";
import { loader as fields } from "./api.item-fields.ts";
import { loader as items } from "./api.items.ts";
import { action as source, loader as sourcePage } from "./library.source.tsx";
import { action as sources } from "./library.sources.tsx";
import { loader as event } from "./reader.event.ts";
import { loader as asking, action as telling } from "./shop.hook.ts";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
const ids: Record<string, string> = {};
const sql = () => services.database.sql;
const args = (asked: Parameters<typeof routeArgs>[2], params: Record<string, string> = {}) =>
  routeArgs(services, made.member, asked, params) as never;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
  for (const [kind, address] of [
    ["catalogue", "https://shop.larkmoor.example/products.json"],
    ["calendar", "https://calendar.larkmoor.example/walks.ics"],
  ] as const) {
    const added = await addSourceAt(services, kind, address);
    if ("problem" in added) throw new Error(added.problem);
    ids[kind] = added.id;
    await readSource(services, added.id);
  }
});
afterAll(() => services.close());

async function ask(body: unknown): Promise<{ status: number; answer: ChosenAnswer }> {
  const asked = { body: JSON.stringify(body) };
  const response = (await chosen(args(asked, { campaign: made.campaign.id }))) as Response;
  return { status: response.status, answer: (await response.json()) as ChosenAnswer };
}
const choice = (change = {}) => ({
  node: "n",
  kind: "catalogue",
  choice: newChoice({ count: 2, ...change }),
});

it("gives what blocks show a reader, with reasons, words and images", async () => {
  const { answer } = await ask({
    choices: [choice({ order: "title", inStock: true })],
    contact: null,
  });
  const [[node, shown]] = answer.lists as never as [
    [string, { why: string; item: { picture: string } }[]],
  ];
  expect([node, shown.length, shown[0]!.why]).toEqual(["n", 2, "by its title"]);
  expect(answer.words).toEqual([["n", "in stock · By title"]]);
  expect(answer.pictures.map(({ id }) => id)).toEqual(
    expect.arrayContaining(shown.map(({ item }) => item.picture)),
  );
  expect(answer.spread).toBeNull();
});

it("says what a reader has of their own, and counts the choices of all", async () => {
  const [contact] = made.contacts;
  await sql()`insert into events (kind, at, contact_id, item)
    values ('viewed', ${services.clock.now()}, ${contact}, ${`${ids.catalogue}:dibber`})`;
  const own = { choices: [choice({ order: "viewed" })], contact, spread: "n" };
  const { answer } = await ask(own);
  expect(answer.lists[0]![1].map(({ item, why }) => [item.key, why])).toEqual([
    ["dibber", "looked at on 2 March 2026"],
  ]);
  expect(answer.spread).toEqual({ readers: 2, different: 2, fewer: 1, none: 1 });
  // One that is gone meanwhile is nobody.
  expect((await ask({ ...own, contact: 99_999 })).answer.lists[0]![1]).toEqual([]);
});

it("refuses what is no choice", async () => {
  for (const wrong of [
    {},
    { choices: [{ ...choice(), node: "a b" }], contact: null },
    { choices: [choice({ count: 0 })], contact: null },
    { choices: [choice({ order: "best" })], contact: null },
    { choices: [choice({ sources: ["x'; drop"] })], contact: null },
    { choices: Array.from({ length: 99 }, () => choice()), contact: null },
    { choices: [], contact: -1 },
  ]) {
    expect([JSON.stringify(wrong).slice(0, 80), (await ask(wrong)).status]).toEqual([
      JSON.stringify(wrong).slice(0, 80),
      400,
    ]);
  }
  const gone = choice({
    sources: ["gone"],
    rule: { type: "field", field: "nothing", op: "is", argument: "x" },
  });
  expect((await ask({ choices: [gone], contact: null })).answer.lists).toEqual([["n", []]]);
});

it("says what a rule over items can speak of", async () => {
  const asked = async (query: string) => {
    const response = (await fields(args({ path: `/library/item-fields?${query}` }))) as Response;
    return { status: response.status, body: (await response.json()) as Vocabulary };
  };
  const { body } = await asked("kind=catalogue");
  expect(body.only).toBe("fields");
  expect(body.fields.map(({ label }) => label)).toEqual(
    expect.arrayContaining(["Title", "Price", "Stock"]),
  );
  expect(body.fields.find(({ path }) => path === "categories")!.options).toContain("Seeds");
  expect((await asked("kind=feed")).body.fields).toEqual([]);
  expect((await asked("source=X")).status).toBe(400);
});

it("gives the shelf of events those to come, the next one first", async () => {
  const response = (await items(args({ path: "/library/items?kind=calendar" }))) as Response;
  const page = (await response.json()) as ItemPage;
  expect([page.kind, page.sources.length]).toEqual(["calendar", 1]);
  expect(page.found).toBeLessThan(30);
  const all = await searchItems(sql(), ids.calendar!, { search: "", from: 0, limit: 99 });
  const next = all
    .filter(({ at }) => at >= services.clock.now())
    .sort((a, b) => a.at.getTime() - b.at.getTime());
  expect(page.items[0]!.title).toBe(next[0]!.title);
  const within = async (days: string) =>
    (
      (await items(
        args({ path: `/library/items?source=${ids.catalogue}&within=${days}` }),
      )) as Response
    ).status;
  expect([await within("7"), await within("0"), await within("x")]).toEqual([200, 400, 400]);
});

it("serves an event as a file that a calendar reads, and nothing else", async () => {
  const [one] = await searchItems(sql(), ids.calendar!, { search: "", from: 0, limit: 1 });
  const file = async (source: string, key: string) =>
    (await event(args({}, { source, key }))) as Response;
  const response = await file(ids.calendar!, one!.key);
  expect(response.headers.get("content-type")).toContain("text/calendar");
  const parsed = new ICAL.Component(ICAL.parse(await response.text()) as never);
  const read = new ICAL.Event(parsed.getFirstSubcomponent("vevent")!);
  expect([read.summary, read.startDate.toJSDate()]).toEqual([one!.title, one!.at]);
  for (const [source, key] of [
    [ids.calendar!, "none"],
    [ids.catalogue!, "dibber"],
    ["gone", "x"],
    ["x'--", "y"],
  ]) {
    expect((await file(source!, key!)).status).toBe(404);
  }
  expect(isPublic(`/e/${ids.calendar}/${encodeURIComponent(one!.key)}`)).toBe(true);
});

it("hears a shop that signs, answers it in JSON, and nobody else", async () => {
  const { secret } = (await getSource(sql(), ids.catalogue!))!;
  const body = JSON.stringify({
    id: "m1",
    views: [{ email: "one@example.org", product: "dibber", at: "2026-03-01T10:00:00Z" }],
  });
  const tell = async (signature: string | null, to = ids.catalogue!) => {
    const asked = args({ body }, { source: to }) as { request: Request };
    if (signature !== null) asked.request.headers.set("X-Signature", signature);
    const answer = (await telling(asked as never)) as Response;
    return { status: answer.status, body: await answer.json() };
  };
  const good = createHmac("sha256", secret!).update(body).digest("hex");
  expect(await tell(good)).toEqual({ status: 200, body: { taken: 1, told: 1 } });
  expect((await tell(null)).status).toBe(401);
  expect((await tell(good, ids.calendar!)).status).toBe(401);
  expect((await tell(good, "gone")).status).toBe(404);
  expect(asking().status).toBe(405);
  expect(isPublic("/shop/seed_shop")).toBe(true);
  expect(isPublic("/shop/seed_shop/more")).toBe(false);
});

it("takes orders and views from a file, and says what came of it", async () => {
  const at = { kind: "catalogues", source: ids.catalogue! };
  const send = async (text: string) => {
    const body = new FormData();
    body.append("do", "deeds");
    body.append("deeds", new File([text], "orders.csv", { type: "text/csv" }));
    return answered<{ error?: Record<string, string[]>; taken?: string }>(
      (await source(args({ body }, at))) as never,
    );
  };
  const csv =
    "email,product,date,type\ntwo@example.org,twine,2026-02-01,order\nnobody@example.org,twine,2026-02-01,\nx,y,z,\n";
  expect((await send(csv)).taken).toBe(
    "1 imported. 1 of people who are no contacts. 1 row says too little.",
  );
  const [row] = await sql()`select kind, item, class from events where item like '%twine'`;
  expect(row).toEqual({ kind: "bought", item: `${ids.catalogue}:twine`, class: "Tools" });
  expect((await send("")).error?.deeds?.[0]).toContain("nothing in this file");
  expect((await send("a,b\n1,2\n")).error?.deeds?.[0]).toContain("who, what and when");
});

it("makes an empty catalogue, and looks at an address of stock before it keeps it", async () => {
  const catalogues = { kind: "catalogues" };
  const nameless = answered<{ error: Record<string, string[]> }>(
    (await sources(args({ form: { do: "empty", name: " " } }, catalogues))) as never,
  );
  expect(nameless.error.name?.[0]).toContain("name");
  const to = (await sources(
    args({ form: { do: "empty", name: "By hand" } }, catalogues),
  )) as Response;
  const id = to.headers.get("location")!.split("/").at(-1)!;
  const at = { kind: "catalogues", source: id };
  const page = (await sourcePage(args({}, at))) as {
    shop: { hook: string; stock: string };
    all: number;
  };
  expect([page.shop.hook, page.all]).toEqual([`http://127.0.0.1:4999/shop/${id}`, 0]);
  const stock = async (address: string) =>
    answered<{ error?: Record<string, string[]> }>(
      (await source(args({ form: { do: "stock", stock: address } }, at))) as never,
    );
  expect((await stock("http://10.0.0.1/stock")).error?.stock?.[0]).toContain("private");
  expect((await stock("shop.larkmoor.example/")).error?.stock?.[0]).toBeTruthy();
  await stock("shop.larkmoor.example/stock.csv");
  expect((await getSource(sql(), id))!.stockAddress).toBe(
    "https://shop.larkmoor.example/stock.csv",
  );
  await stock("");
  expect((await getSource(sql(), id))!.stockAddress).toBeNull();
  await expect(sourcePage(args({}, { kind: "feeds", source: id }))).rejects.toMatchObject({
    init: { status: 404 },
  });
  await expect(sourcePage(args({}, { kind: "constructor", source: id }))).rejects.toMatchObject({
    init: { status: 404 },
  });
});
