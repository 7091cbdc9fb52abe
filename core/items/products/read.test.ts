/** Reading what shops tell of products, orders and views: as they write it, and as somebody hostile does. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { LIMITS } from "../../limits.ts";
import { FeedError } from "../feeds/index.ts";
import { deedsOf, readDeeds, shopMessageSchema } from "../shop-message.ts";
import { amountOf, readOffers, readProducts } from "./index.ts";

const bytes = (text: string) => new TextEncoder().encode(text);
const AT = { address: "https://shop.example/products.json" };
const read = (text: string) => readProducts(bytes(text), AT);

describe("a list of products", () => {
  it("is read from CSV whose first row names the columns, in whatever words", () => {
    const { items, leftOut } = read(
      'SKU;Name;URL;Image link;Price;Sale price;Quantity;Category\nb-1;"Bean; tall";/bean;pic.png;"2,80 EUR";2,10;140;Seeds|Vegetables\n;;;;;;;\nx;;;;1;;;\n',
    );
    expect(leftOut).toBe(1);
    expect(items).toEqual([
      {
        key: "b-1",
        title: "Bean; tall",
        at: null,
        picture: "https://shop.example/pic.png",
        values: {
          ...{
            link: "https://shop.example/bean",
            summary: "",
            categories: ["Seeds", "Vegetables"],
          },
          ...{ price: 2.8, sale_price: 2.1, currency: "EUR", stock: 140 },
        },
      },
    ]);
  });

  it("is read from JSON, a list or an object with one in it, and says what the shop is called", () => {
    const one = {
      id: 7,
      title: "Pea",
      price: 2.5,
      availability: "out of stock",
      category: ["Seeds"],
    };
    expect(read(JSON.stringify([one])).items[0]).toMatchObject({
      key: "7",
      values: { price: 2.5, stock: 0, categories: ["Seeds"] },
    });
    const shop = read(JSON.stringify({ name: "The shop", products: [one, null, 3] }));
    expect([shop.title, shop.items.length]).toEqual(["The shop", 1]);
  });

  it("does without pictures, prices and ids, and keeps several currencies apart", () => {
    const { items } = read(
      JSON.stringify([
        { title: "A", link: "https://shop.example/a", price: "£1,200.00" },
        { id: "b", title: "B", price: "12 €", in_stock: true },
        {
          id: "c",
          title: "C",
          price: "ask us",
          link: "javascript:alert(1)",
          image: "data:image/png,x",
        },
      ]),
    );
    expect(
      items.map(({ key, picture, values }) => [
        key,
        picture,
        values.price,
        values.currency,
        values.link,
      ]),
    ).toEqual([
      ["https://shop.example/a", "", 1_200, "GBP", "https://shop.example/a"],
      ["b", "", 12, "EUR", ""],
      ["c", "", null, null, ""],
    ]);
  });

  it("makes words of HTML, and keeps a key once", () => {
    const { items } = read(
      JSON.stringify([
        {
          id: "a",
          title: "<b>Bean</b><script>x()</script>",
          description: "<p>Tall &amp; early</p>",
        },
        { id: "a", title: "Bean again" },
      ]),
    );
    expect(items).toHaveLength(1);
    expect(read('[{"id":"a","title":"<b>Bean</b><script>x()</script>"}]').items[0]!.title).toBe(
      "Bean",
    );
  });

  it("says in a sentence what it cannot read", () => {
    for (const [text, words] of [
      ["<!doctype html><html>", "a page"],
      ['{"a": 1}', "no list of products"],
      ["[", "no list of products"],
      ["", "no product"],
      ["a,b\n1,2", "no product"],
      ["{".repeat(5_000), "no list"],
    ] as const) {
      expect(() => read(text), text.slice(0, 20)).toThrow(words);
    }
    const many = `id,title\n${"1,x\n".repeat(LIMITS.itemsPerCatalogue + 2)}`;
    expect(() => read(many)).toThrow("At most");
  });

  it("never fails otherwise, whatever comes", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
        try {
          for (const { key, title } of read(text).items) expect(key && title).toBeTruthy();
        } catch (error) {
          expect(error).toBeInstanceOf(FeedError);
        }
      }),
    );
  });
});

it("reads amounts as shops write them", () => {
  const amounts: [string | number, number | null, string | null][] = [
    ["2.40", 2.4, null],
    ["2,40", 2.4, null],
    ["1.234,50 EUR", 1_234.5, "EUR"],
    ["1 234,5 €", 1_234.5, "EUR"],
    ["£1,200", 1_200, "GBP"],
    ["1'200.00", 1_200, null],
    [3, 3, null],
    ["0", 0, null],
    ["free", null, null],
    ["-3", null, null],
    [-1, null, null],
    [Number.NaN, null, null],
  ];
  for (const [written, amount, currency] of amounts) {
    expect([written, amountOf(written)]).toEqual([
      written,
      amount === null ? null : { amount, currency },
    ]);
  }
});

it("reads stock and prices alone, by the ids of products", () => {
  expect(readOffers(bytes("id,price,sale_price,stock\na,2.50,,3\n,1,,\nb,4,3,sold out\n"))).toEqual(
    [
      { key: "a", price: 2.5, sale_price: null, currency: null, stock: 3 },
      { key: "b", price: 4, sale_price: 3, currency: null, stock: 0 },
    ],
  );
  expect(() => readOffers(bytes("x\n1\n"))).toThrow("no prices");
});

describe("what a shop tells of its customers", () => {
  const message = {
    id: "m1",
    views: [{ email: "Amelie.Garnier@Example.org", product: "bean", at: "2026-05-01T10:00:00Z" }],
    orders: [
      {
        email: "a@example.org",
        at: "2026-05-02T10:00:00+02:00",
        items: [{ product: "pea", quantity: 2, amount: 5, currency: "GBP" }, { product: "bean" }],
      },
    ],
  };

  it("is one deed for each thing, under the folded address", () => {
    const deeds = deedsOf(shopMessageSchema.parse(message));
    expect(deeds.map(({ kind, email, product, data }) => [kind, email, product, data])).toEqual([
      ["viewed", "amelie.garnier@example.org", "bean", {}],
      ["bought", "a@example.org", "pea", { quantity: 2, amount: 5, currency: "GBP" }],
      ["bought", "a@example.org", "bean", { quantity: 1 }],
    ]);
    expect(deeds[1]!.at.toISOString()).toBe("2026-05-02T08:00:00.000Z");
  });

  it("is refused where it does not say who, what or when", () => {
    for (const wrong of [
      { ...message, id: "" },
      { ...message, views: [{ ...message.views[0], email: "nobody" }] },
      { ...message, views: [{ ...message.views[0], at: "yesterday" }] },
      { ...message, orders: [{ ...message.orders[0], items: [] }] },
      { ...message, orders: [{ ...message.orders[0], items: [{ product: "x", quantity: -1 }] }] },
      null,
      "x",
    ]) {
      expect(shopMessageSchema.safeParse(wrong).success).toBe(false);
    }
  });

  it("is read from CSV, without rows that say too little", () => {
    const now = new Date("2026-06-01T00:00:00Z");
    const { deeds, leftOut } = readDeeds(
      bytes(
        "Customer,SKU,Date,Type,Total\na@example.org,pea,2026-05-01,order,£4.20\nb@example.org,bean,2026-05-02,view,\nnobody,bean,2026-05-02,,\nc@example.org,,2026-05-02,,\nd@example.org,x,2031-01-01,,\n",
      ),
      now,
    );
    expect(leftOut).toBe(3);
    expect(deeds.map(({ kind, product, data }) => [kind, product, data])).toEqual([
      ["bought", "pea", { amount: 4.2, currency: "GBP" }],
      ["viewed", "bean", {}],
    ]);
    expect(() => readDeeds(bytes("a,b\n1,2\n"), now)).toThrow("who, what and when");
  });
});
