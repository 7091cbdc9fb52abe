/** Reads products as shops tell them: CSV with names of columns, or JSON. All of it is hostile until it is here. */
import Papa from "papaparse";
import { fold } from "../../fields/index.ts";
import { isJsonObject, type Json, parseJson } from "../../json.ts";
import { LIMITS } from "../../limits.ts";
import { trimmed } from "../../words.ts";
import { decodeText } from "../feeds/decode.ts";
import { FeedError } from "../feeds/error.ts";
import { readHtml } from "../feeds/words.ts";
import type { NewItem } from "../item.ts";

/** What shops call the fields of a product, folded and without marks. */
const NAMES: Readonly<Record<string, readonly string[]>> = {
  key: ["id", "sku", "key", "number", "articlenumber", "article", "code"],
  title: ["title", "name", "product", "productname"],
  link: ["link", "url", "address", "page"],
  picture: ["image", "imageurl", "imagelink", "picture", "photo"],
  summary: ["description", "summary", "text", "about"],
  price: ["price", "regularprice"],
  sale_price: ["saleprice", "offerprice", "reducedprice", "specialprice"],
  currency: ["currency"],
  stock: ["stock", "quantity", "inventory", "availability"],
  categories: ["categories", "category", "group", "type"],
};
const byName = new Map(
  Object.entries(NAMES).flatMap(([field, names]) => names.map((name) => [name, field] as const)),
);
const fieldOf = (name: string) => byName.get(fold(name).replace(/[^a-z0-9]+/g, ""));

type Row = Readonly<Record<string, Json>>;

function csvRows(text: string): Row[] {
  const { data } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: "greedy",
    preview: LIMITS.itemsPerCatalogue + 1,
  });
  return data as Row[];
}

/** The rows of a JSON value: a list of objects, or an object in which one is. */
function jsonRows(value: Json | undefined): Row[] | null {
  if (Array.isArray(value)) return value.filter(isJsonObject) as Row[];
  if (!isJsonObject(value)) return null;
  for (const one of Object.values(value)) {
    if (Array.isArray(one) && one.some(isJsonObject)) return one.filter(isJsonObject) as Row[];
  }
  return null;
}

function readRows(bytes: Uint8Array, contentType: string): { rows: Row[]; title: string } {
  const text = decodeText(bytes, contentType);
  const start = text.trimStart();
  if (start.startsWith("<")) throw new FeedError("This is a page and no list of products.");
  if (start.startsWith("{") || start.startsWith("[")) {
    const value = parseJson(text) as Json | undefined;
    const rows = jsonRows(value);
    if (!rows) throw new FeedError("This JSON holds no list of products.");
    const title = isJsonObject(value) ? wordsOf(value.title) || wordsOf(value.name) : "";
    return { rows, title: trimmed(title, LIMITS.nameLength) };
  }
  return { rows: csvRows(text), title: "" };
}

const SYMBOLS: Readonly<Record<string, string>> = { "£": "GBP", "€": "EUR", $: "USD", "¥": "JPY" };

/** An amount as shops write it (`2.40`, `2,40 EUR`, `£1,200.00`), with the currency it names; null for none. */
export function amountOf(
  value: Json | undefined,
): { amount: number; currency: string | null } | null {
  if (typeof value === "number") {
    return Number.isFinite(value) && value >= 0 ? { amount: value, currency: null } : null;
  }
  if (typeof value !== "string") return null;
  const code = /\b([A-Z]{3})\b/.exec(value)?.[1] ?? null;
  const symbol = /[£€$¥]/.exec(value)?.[0];
  const digits = /-?\d[\d.,' \u00a0\u202f]*/.exec(value)?.[0]?.replace(/[' \u00a0\u202f]/g, "");
  if (!digits || digits.startsWith("-")) return null;
  // The last mark is the decimal one where one or two digits follow it.
  const plain = /[.,]\d{1,2}$/.test(digits)
    ? `${digits.slice(0, digits.search(/[.,]\d{1,2}$/)).replace(/[.,]/g, "")}.${digits.match(/[.,](\d{1,2})$/)![1]}`
    : digits.replace(/[.,]/g, "");
  const amount = Number(plain);
  if (!Number.isFinite(amount)) return null;
  return { amount, currency: code ?? (symbol ? SYMBOLS[symbol]! : null) };
}

/** How many there are: a number, or the words shops use; null where nobody says. */
function stockOf(value: Json | undefined): number | null {
  if (typeof value === "boolean") return value ? null : 0;
  if (typeof value === "number")
    return Number.isFinite(value) ? Math.max(0, Math.floor(value)) : null;
  if (typeof value !== "string") return null;
  const words = fold(value).replace(/[^a-z0-9.]+/g, "");
  if (/^\d+(\.0+)?$/.test(words)) return Math.floor(Number(words));
  return /^(outofstock|soldout|unavailable|no)$/.test(words) ? 0 : null;
}

const wordsOf = (value: Json | undefined): string =>
  typeof value === "string" ? value.trim() : typeof value === "number" ? String(value) : "";

const listOf = (value: Json | undefined): string[] => {
  const parts = Array.isArray(value) ? value.map(wordsOf) : wordsOf(value).split(/[;|,>]/);
  const clean = parts.map((one) => trimmed(one.trim(), LIMITS.nameLength)).filter(Boolean);
  return [...new Set(clean)].slice(0, LIMITS.itemCategories);
};

function webAddress(value: Json | undefined, base: string): string {
  const written = wordsOf(value);
  if (!written || !URL.canParse(written, base)) return "";
  const { protocol, username, href } = new URL(written, base);
  return /^https?:$/.test(protocol) && !username && href.length <= LIMITS.lineLength ? href : "";
}

/** A row by our names for its fields. */
const namedOf = (row: Row): Row => {
  const named: Record<string, Json> = {};
  for (const [name, value] of Object.entries(row)) {
    const field = fieldOf(name);
    if (field && named[field] === undefined && value !== "" && value !== null) named[field] = value;
  }
  return named;
};

/** What a product costs and how many there are, as values of its fields. */
function offerOf(row: Row) {
  const [price, sale] = [amountOf(row.price), amountOf(row.sale_price)];
  const currency = wordsOf(row.currency).toUpperCase() || price?.currency || sale?.currency || null;
  return {
    price: price?.amount ?? null,
    sale_price: sale?.amount ?? null,
    currency: currency && /^[A-Z]{3}$/.test(currency) ? currency : null,
    stock: stockOf(row.stock),
  };
}

export interface ReadProducts {
  /** What the shop is called; empty where it does not say. */
  readonly title: string;
  readonly items: readonly NewItem[];
  /** Rows that are no product: without a title, or anything by which to tell them. */
  readonly leftOut: number;
}

/** Products from bytes that came from `address`. Throws a FeedError with a sentence where they hold none. */
export function readProducts(
  bytes: Uint8Array,
  { address, contentType = "" }: { address: string; contentType?: string },
): ReadProducts {
  const { rows, title: shop } = readRows(bytes, contentType);
  if (rows.length > LIMITS.itemsPerCatalogue) {
    throw new FeedError(`At most ${LIMITS.itemsPerCatalogue} products fit in a catalogue.`);
  }
  const items = new Map<string, NewItem>();
  for (const row of rows.map(namedOf)) {
    const title = trimmed(readHtml(wordsOf(row.title)).words, LIMITS.itemTitle);
    const link = webAddress(row.link, address);
    const key = (wordsOf(row.key) || link).slice(0, LIMITS.lineLength);
    if (!title || !key) continue;
    items.set(key, {
      key,
      title,
      at: null,
      picture: webAddress(row.picture, address),
      values: {
        link,
        summary: trimmed(readHtml(wordsOf(row.summary)).words, LIMITS.itemSummary),
        categories: listOf(row.categories),
        ...offerOf(row),
      },
    });
  }
  if (items.size === 0) {
    throw new FeedError(
      "There is no product in it. Each needs a title, and an id or a link; the first row of a CSV file names them.",
    );
  }
  return { title: shop, items: [...items.values()], leftOut: rows.length - items.size };
}

/** What a product costs and how many there are, by its key. */
export type Offer = ReturnType<typeof offerOf> & { readonly key: string };

/** Stock and prices alone. Throws a FeedError with a sentence where there are none. */
export function readOffers(bytes: Uint8Array, contentType = ""): Offer[] {
  const offers = readRows(bytes, contentType)
    .rows.slice(0, LIMITS.itemsPerCatalogue)
    .map(namedOf)
    .flatMap((row) => {
      const key = wordsOf(row.key);
      return key ? [{ key, ...offerOf(row) }] : [];
    });
  if (offers.length === 0) throw new FeedError("There are no prices in it, or nothing says whose.");
  return offers;
}
