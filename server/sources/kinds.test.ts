/** Catalogues and calendars: read from an address, whole each time; stock and prices alone; what a shop tells. */
import { createHmac } from "node:crypto";
import { afterEach, beforeEach, expect, it } from "vitest";
import { said } from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import { createFetcher, type StandInAnswer } from "../fetching/fetcher.ts";
import { CALENDAR_ADDRESS } from "../standins/calendar.ts";
import { SHOP_ADDRESS, SHOP_STOCK_ADDRESS } from "../standins/shop.ts";
import { addContacts } from "../store/contacts.ts";
import { searchItems } from "../store/items.ts";
import { saveSetting } from "../store/settings.ts";
import { getSource, getSources, setStockAddress } from "../store/sources.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { addEmptySource, addSourceAt } from "./adding.ts";
import { readSource } from "./reading.ts";
import { isSigned, takeShopMessage } from "./shop.ts";

let own: TestServices;
let services: TestServices;
const site: Record<string, StandInAnswer> = {};
beforeEach(async () => {
  own = await startTestServices();
  for (const path of Object.keys(site)) delete site[path];
  const standIns = new Map([["shop.example", (url: URL) => site[url.pathname] ?? null]]);
  services = { ...own, fetcher: createFetcher({ standIns }) } as TestServices;
});
afterEach(() => own.close());

const sql = () => services.database.sql;
const json = (products: object[]): StandInAnswer => ({
  contentType: "application/json",
  body: JSON.stringify({ title: "The shop", products }),
});
const all = (id: string) => searchItems(sql(), id, { search: "", from: 0, limit: 99 });
async function added(kind: string, address: string, of = services): Promise<string> {
  const made = await addSourceAt(of, kind, address);
  if ("problem" in made) throw new Error(made.problem);
  await readSource(of, made.id);
  return made.id;
}

it("keeps a catalogue as its shop tells it: what is not there any more has gone", async () => {
  site["/p.json"] = json([
    { id: "a", title: "Bean", price: 2, stock: 1 },
    { id: "b", title: "Pea", price: 3 },
  ]);
  const id = await added("catalogue", "https://shop.example/p.json");
  expect(await getSource(sql(), id)).toMatchObject({ name: "The shop", kind: "catalogue" });
  site["/p.json"] = json([
    { id: "b", title: "Pea, early", price: 4 },
    { id: "c", title: "Leek" },
  ]);
  await readSource(services, id);
  const items = await all(id);
  expect(items.map(({ key, title, values }) => [key, title, values.price ?? null]).sort()).toEqual([
    ["b", "Pea, early", 4],
    ["c", "Leek", null],
  ]);
  // Two things may stand at one address and be two all the same.
  site["/p.json"] = json([
    { id: "x", title: "Small", link: "https://shop.example/tin" },
    { id: "y", title: "Large", link: "https://shop.example/tin" },
  ]);
  await readSource(services, id);
  expect(await all(id)).toHaveLength(2);
});

it("keeps the last good products of a list that breaks", async () => {
  site["/p.json"] = json([{ id: "a", title: "Bean" }]);
  const id = await added("catalogue", "https://shop.example/p.json");
  site["/p.json"] = { contentType: "text/html", body: "<!doctype html>Closed" };
  await readSource(services, id);
  expect(await all(id)).toHaveLength(1);
  expect((await getSource(sql(), id))!.problem).toBe("This is a page and no list of products.");
  site["/p.json"] = json([]);
  await readSource(services, id);
  expect(await all(id)).toHaveLength(1);
});

it("takes stock and prices alone, of what it knows, and reads them more often", async () => {
  site["/p.json"] = json([
    { id: "a", title: "Bean", price: 2, stock: 5, currency: "GBP" },
    { id: "b", title: "Pea", price: 3 },
  ]);
  const id = await added("catalogue", "https://shop.example/p.json");
  site["/stock.csv"] = {
    contentType: "text/csv",
    body: "id,price,sale_price,stock\na,2.50,2.00,0\nz,9,,\nb,,,7\n",
  };
  await setStockAddress(sql(), id, "https://shop.example/stock.csv");
  const next = await readSource(services, id);
  expect(next!.getTime() - services.clock.now().getTime()).toBe(LIMITS.stockEvery * 60_000);
  const values = new Map((await all(id)).map((item) => [item.key, item.values]));
  expect(values.get("a")).toMatchObject({ price: 2.5, sale_price: 2, stock: 0, currency: "GBP" });
  // What is not said of a price stays; how many there are is said anew.
  expect(values.get("b")).toMatchObject({ price: 3, stock: 7 });
  expect(values.size).toBe(2);
});

it("reads a calendar, also from an address as calendars write them", async () => {
  const event = (uid: string, day: string) =>
    `BEGIN:VEVENT\r\nUID:${uid}\r\nDTSTART:2026${day}T100000Z\r\nSUMMARY:Walk ${uid}\r\nEND:VEVENT\r\n`;
  const calendar = (...events: string[]): StandInAnswer => ({
    contentType: "text/calendar",
    body: `BEGIN:VCALENDAR\r\nX-WR-CALNAME:Walks\r\n${events.join("")}END:VCALENDAR\r\n`,
  });
  site["/w.ics"] = calendar(event("1", "0401"), event("2", "0402"));
  const id = await added("calendar", "webcal://shop.example/w.ics");
  expect(await getSource(sql(), id)).toMatchObject({
    name: "Walks",
    address: "https://shop.example/w.ics",
  });
  site["/w.ics"] = calendar(event("2", "0409"));
  await readSource(services, id);
  const [only, ...others] = await all(id);
  expect(others).toEqual([]);
  expect(only).toMatchObject({ title: "Walk 2", at: new Date("2026-04-09T10:00:00Z") });
});

it("says what is wrong with an address, and makes one to be filled by hand", async () => {
  site["/page"] = { contentType: "text/html", body: "<!doctype html><html>Hello</html>" };
  for (const [kind, words] of [
    ["catalogue", "no list of products"],
    ["calendar", "not a calendar"],
    ["feed", "names no feed"],
  ] as const) {
    const made = await addSourceAt(services, kind, "https://shop.example/page");
    expect("problem" in made && made.problem).toContain(words);
  }
  const made = await addEmptySource(services, "catalogue", "By hand");
  const [source] = await getSources(sql());
  expect(source).toMatchObject({ name: "By hand", address: null });
  // There is nothing to be read, and nothing goes wrong.
  expect(await readSource(services, "id" in made ? made.id : "")).not.toBeNull();
  expect((await getSource(sql(), source!.id))!.problem).toBeNull();
});

it("waits as long as a server asks it to", async () => {
  const { FetchError } = await import("../fetching/error.ts");
  site["/p.json"] = json([{ id: "a", title: "Bean" }]);
  const id = await added("catalogue", "https://shop.example/p.json");
  const busy = {
    ...services,
    fetcher: () => Promise.reject(new FetchError("Busy.", { retryAfter: 300 })),
  };
  const next = await readSource(busy as TestServices, id);
  expect(next!.getTime() - services.clock.now().getTime()).toBe(300 * 60_000);
});

it("ships a shop and a calendar to try, which change as their time goes on", async () => {
  const shop = await added("catalogue", SHOP_ADDRESS, own);
  await setStockAddress(own.database.sql, shop, SHOP_STOCK_ADDRESS);
  const offers = async () => {
    await readSource(own, shop);
    return (await all(shop))
      .map(({ key, values }) => [key, values.stock, values.sale_price])
      .sort();
  };
  const before = await offers();
  expect(before.length).toBeGreaterThan(20);
  await saveSetting(own.database.sql, "standIns", { ahead: 9 });
  expect(await offers()).not.toEqual(before);
  const walks = await added("calendar", CALENDAR_ADDRESS, own);
  const events = await all(walks);
  expect(events.length).toBeGreaterThan(20);
  expect(events.every((event) => said(event, "zone") === "Europe/London")).toBe(true);
});

it("takes what a shop tells only with its signature, once, and of contacts it knows", async () => {
  site["/p.json"] = json([{ id: "bean", title: "Bean", category: "Seeds" }]);
  const id = await added("catalogue", "https://shop.example/p.json");
  const { secret } = (await getSource(sql(), id))!;
  const [contact] = await addContacts(sql(), [
    { email: "Amelie@example.org", values: {}, createdAt: services.clock.now() },
  ]);
  const message = {
    id: "m1",
    orders: [
      {
        email: "AMELIE@example.org",
        at: "2026-03-01T10:00:00Z",
        items: [{ product: "bean", amount: 4, currency: "GBP" }],
      },
      { email: "stranger@example.org", at: "2026-03-01T10:00:00Z", items: [{ product: "bean" }] },
    ],
    views: [{ email: "amelie@example.org", product: "gone", at: "2026-03-01T11:00:00Z" }],
  };
  const told = (body: string, signature: string | null) =>
    takeShopMessage(services, id, Buffer.from(body), signature);
  const sign = (body: string, key = secret!) =>
    createHmac("sha256", key).update(body).digest("hex");
  const body = JSON.stringify(message);
  for (const wrong of [null, "", "zz", sign(body, "another"), sign(`${body} `)]) {
    expect(await told(body, wrong)).toMatchObject({ status: 401 });
  }
  expect(await takeShopMessage(services, "none", Buffer.from(body), sign(body))).toMatchObject({
    status: 404,
  });
  for (const bad of ["{", '{"id":"x","views":[{"email":"no"}]}', "[]"]) {
    expect(await told(bad, sign(bad))).toMatchObject({ status: 400 });
  }
  expect(await sql()`select 1 from events`).toEqual([]);
  expect(await told(body, `sha256=${sign(body)}`)).toEqual({ taken: 2, told: 3 });
  expect(await told(body, sign(body))).toEqual({ taken: 0, told: 3 });
  expect(
    await sql()`select kind, contact_id as who, item, class, data from events order by kind`,
  ).toEqual([
    {
      kind: "bought",
      who: contact,
      item: `${id}:bean`,
      class: "Seeds",
      data: { amount: 4, currency: "GBP", quantity: 1 },
    },
    { kind: "viewed", who: contact, item: `${id}:gone`, class: null, data: {} },
  ]);
  expect(await sql()`select id, name from event_subjects order by id`).toEqual([
    { id: `${id}:bean`, name: "Bean" },
    { id: `${id}:gone`, name: "gone" },
  ]);
  expect(isSigned(Buffer.from("x"), sign("x"), secret!)).toBe(true);
});
