/** What items of each kind say in words made of several fields. */
import { expect, it } from "vitest";
import { anItem } from "../../testing/items.ts";
import {
  changesOf,
  inStock,
  itemKindOf,
  kindBySlug,
  type LiveItem,
  priceOf,
  slugOf,
} from "../index.ts";
import { endOf, whenOf, zoneOfEvent } from "./calendar.ts";

const says = (item: LiveItem, id: string, lang = "en-GB") =>
  itemKindOf(item.kind)
    .made.find((one) => one.id === id)!
    .say(item, lang);
const priced = (values: LiveItem["values"]) => anItem({ values });

it("says what a product costs, and before a sale, in its currency and the reader's language", () => {
  const sale = priced({ price: 2.8, sale_price: 2.1, currency: "GBP" });
  expect([says(sale, "pays"), says(sale, "before")]).toEqual(["£2.10", "£2.80"]);
  expect(says(sale, "reduction").replace("−", "-")).toBe("-25%");
  const plain = priced({ price: 1_234.5, currency: "eur" });
  expect(says(plain, "pays", "fr").replace(/\s/g, " ")).toBe("1 234,50 €");
  expect([says(plain, "before"), says(plain, "reduction")]).toEqual(["", ""]);
  // A sale that is none, a currency that is none, and nothing at all.
  expect(priceOf(priced({ price: 2, sale_price: 3 }))).toEqual({ now: 2, before: null });
  expect(priceOf(priced({ price: 2, sale_price: 2 }))).toEqual({ now: 2, before: null });
  expect(says(priced({ price: 1, currency: "££" }), "pays")).toBe("£1.00");
  expect(says(priced({}), "pays")).toBe("");
  expect(priceOf(priced({ sale_price: 3 }))).toEqual({ now: 3, before: null });
});

it("is in stock unless somebody counted none", () => {
  expect(inStock(priced({ stock: 0 }))).toBe(false);
  expect(inStock(priced({ stock: 1 }))).toBe(true);
  expect(inStock(priced({}))).toBe(true);
});

const event = (values: LiveItem["values"], at = Date.UTC(2026, 6, 4, 9)) =>
  anItem({ kind: "calendar", at, values });

it("says when an event is, by the clock of its place and in the reader's language", () => {
  const zone = "Europe/London";
  expect(says(event({ zone, minutes: 120 }), "when")).toBe("Saturday 4 July 2026, 10:00–12:00");
  expect(says(event({ zone, minutes: 120 }), "when", "fr")).toBe(
    "samedi 4 juillet 2026, 10:00–12:00",
  );
  expect(says(event({ zone }), "when")).toBe("Saturday 4 July 2026, 10:00");
  expect(says(event({ zone, minutes: 26 * 60 }), "when")).toBe(
    "Saturday 4 July 2026, 10:00 – Sunday 5 July 2026, 12:00",
  );
  const midnight = Date.UTC(2026, 6, 3, 23);
  expect(says(event({ zone, whole_day: true }, midnight), "when")).toBe("Saturday 4 July 2026");
  expect(whenOf(event({ whole_day: true, minutes: 2_880 }, midnight), "en-GB", zone)).toContain(
    "4",
  );
  expect([says(event({ zone }), "day"), says(event({ zone }), "month")]).toEqual(["4", "Jul"]);
});

it("takes a zone that nobody knows for UTC", () => {
  expect(zoneOfEvent(event({ zone: "Moon/Base" }))).toBe("UTC");
  expect(zoneOfEvent(event({}))).toBe("UTC");
  expect(says(event({ zone: "Moon/Base" }), "when")).toBe("Saturday 4 July 2026, 09:00");
});

it("ends after its minutes, with its day, or within the hour", () => {
  const at = Date.UTC(2026, 6, 4);
  expect(endOf(event({ minutes: 30 }, at)) - at).toBe(30 * 60_000);
  expect(endOf(event({ whole_day: true }, at)) - at).toBe(86_400_000);
  expect(endOf(event({}, at)) - at).toBe(3_600_000);
});

it("tells what has become of an item since it was shown", () => {
  const bean = priced({
    price: 2.1,
    stock: 3,
    link: "https://shop.example/bean",
    summary: "Tall.",
  });
  const kinds = (now: LiveItem | undefined, at = 0, before = bean) =>
    changesOf(before, now, at).map(({ kind }) => kind);
  expect(kinds(bean)).toEqual([]);
  expect(kinds({ ...bean, values: { ...bean.values, stock: 1 } })).toEqual([]);
  expect(changesOf(bean, { ...bean, values: { ...bean.values, price: 2.8 } }, 0)).toEqual([
    { kind: "price", words: "“Broad bean” costs £2.80, not £2.10." },
  ]);
  expect(kinds({ ...bean, values: { ...bean.values, price: 3, stock: 0 } })).toEqual([
    "price",
    "stock",
  ]);
  expect(kinds({ ...bean, values: { ...bean.values, sale_price: 2 } })).toEqual(["price"]);
  expect(kinds(undefined)).toEqual(["gone"]);
  expect(kinds({ ...bean, title: "Bean" })).toEqual(["words"]);
  expect(kinds({ ...bean, values: { ...bean.values, link: "https://shop.example/b" } })).toEqual([
    "words",
  ]);
  const walk = event({ minutes: 60 }, 1_000_000);
  expect(kinds(walk, 1_000_000 + 3_600_000, walk)).toEqual([]);
  expect(kinds(walk, 1_000_001 + 3_600_000, walk)).toEqual(["past"]);
  expect(changesOf(walk, { ...walk, at: 2_000_000 }, 0)[0]!.words).toContain("at another time");
  expect(kinds(undefined, 0, walk)).toEqual(["gone"]);
});

it("knows kinds by their addresses, and reads an unknown kind as articles", () => {
  expect(kindBySlug("catalogues")!.kind).toBe("catalogue");
  expect(kindBySlug("constructor")).toBeNull();
  expect(slugOf(itemKindOf("calendar"))).toBe("calendars");
  expect(itemKindOf("podcast").kind).toBe("feed");
});
