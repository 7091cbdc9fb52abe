/** What a shop tells of views and orders: as JSON to an address of ours, or in a CSV file. */
import Papa from "papaparse";
import { z } from "zod";
import { fold, MAIL_ADDRESS } from "../fields/index.ts";
import { LIMITS } from "../limits.ts";
import { decodeText } from "./feeds/decode.ts";
import { FeedError } from "./feeds/error.ts";
import { amountOf } from "./products/read.ts";

const email = z.string().trim().max(LIMITS.addressLength).regex(MAIL_ADDRESS);
const product = z.string().trim().min(1).max(LIMITS.lineLength);
const moment = z.iso.datetime({ offset: true }).transform((text) => new Date(text));
const boughtSchema = z.object({
  product,
  quantity: z.number().int().min(1).max(10_000).default(1),
  /** Of all of them. */
  amount: z.number().min(0).max(1e9).nullable().default(null),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .nullable()
    .default(null),
});

export const shopMessageSchema = z.object({
  /** By which it is known again: told twice it counts once. */
  id: z.string().min(1).max(200),
  views: z
    .array(z.object({ email, product, at: moment }))
    .max(LIMITS.shopDeeds)
    .default([]),
  orders: z
    .array(
      z.object({ email, at: moment, items: z.array(boughtSchema).min(1).max(LIMITS.shopItems) }),
    )
    .max(LIMITS.shopDeeds)
    .default([]),
});
export type ShopMessage = z.infer<typeof shopMessageSchema>;

/** One thing that somebody did in a shop. */
export interface ShopDeed {
  readonly kind: "bought" | "viewed";
  /** The address it was done under, folded. */
  readonly email: string;
  /** The key of the item in its catalogue. */
  readonly product: string;
  readonly at: Date;
  readonly data: {
    readonly amount?: number;
    readonly currency?: string;
    readonly quantity?: number;
  };
}

export const deedsOf = ({ views, orders }: ShopMessage): ShopDeed[] => [
  ...views.map(
    ({ email, product, at }): ShopDeed => ({
      kind: "viewed",
      email: fold(email),
      product,
      at,
      data: {},
    }),
  ),
  ...orders.flatMap(({ email, at, items }) =>
    items.map(
      ({ product, quantity, amount, currency }): ShopDeed => ({
        ...{ kind: "bought", email: fold(email), product, at },
        data: { quantity, ...(amount !== null && { amount }), ...(currency && { currency }) },
      }),
    ),
  ),
];

const NAMES: Readonly<Record<string, readonly string[]>> = {
  email: ["email", "mail", "emailaddress", "customer", "contact"],
  product: ["product", "productid", "sku", "item", "id", "article"],
  at: ["at", "date", "time", "when", "orderdate", "created"],
  kind: ["kind", "type", "what", "event"],
  quantity: ["quantity", "count", "pieces"],
  amount: ["amount", "total", "price", "value"],
  currency: ["currency"],
};
const byName = new Map(
  Object.entries(NAMES).flatMap(([field, names]) => names.map((name) => [name, field] as const)),
);

export interface ReadDeeds {
  readonly deeds: readonly ShopDeed[];
  /** How many rows say nothing that can be used. */
  readonly leftOut: number;
}

/** Orders and views of a CSV file whose first row names its columns. Throws a FeedError where there are none. */
export function readDeeds(bytes: Uint8Array, now: Date): ReadDeeds {
  const { data } = Papa.parse<Record<string, string>>(decodeText(bytes), {
    ...{ header: true, skipEmptyLines: "greedy", preview: LIMITS.shopRows + 1 },
    transformHeader: (name) => byName.get(fold(name).replace(/[^a-z0-9]+/g, "")) ?? `- ${name}`,
  });
  if (data.length > LIMITS.shopRows) {
    throw new FeedError(`At most ${LIMITS.shopRows} rows at once.`);
  }
  const deeds = data.flatMap((row): ShopDeed[] => {
    const at = new Date((row.at ?? "").trim());
    const known = email.safeParse(row.email ?? "");
    const product = (row.product ?? "").trim().slice(0, LIMITS.lineLength);
    if (!known.success || !product || !(at.getTime() <= now.getTime() + 86_400_000)) return [];
    const kind = /view|look|visit/i.test(row.kind ?? "") ? "viewed" : "bought";
    const [quantity, paid] = [Number(row.quantity), amountOf(row.amount)];
    const currency = /^[A-Za-z]{3}$/.test(row.currency ?? "")
      ? row.currency!.toUpperCase()
      : paid?.currency;
    return [
      {
        ...{ kind, email: fold(known.data), product, at },
        data: {
          ...(Number.isInteger(quantity) && quantity > 0 && { quantity }),
          ...(paid && { amount: paid.amount }),
          ...(currency && { currency }),
        },
      },
    ];
  });
  if (deeds.length === 0) {
    throw new FeedError(
      "No row says who, what and when. The first row names the columns: email, product, date.",
    );
  }
  return { deeds, leftOut: data.length - deeds.length };
}
