/** Products of catalogues. */
import type { LiveItem } from "../item.ts";
import type { ItemKind } from "./kind.ts";

const numberOf = (item: LiveItem, field: string): number | null => {
  const value = item.values[field];
  return typeof value === "number" && Number.isFinite(value) ? value : null;
};

/** Products without a currency of their own are priced in this one. */
const CURRENCY = "GBP";
const ISO_4217 = /^[A-Z]{3}$/;

/** An amount in the product's currency, as readers of the language write it (ECMA-402). */
export function itemMoney(item: LiveItem, amount: number, lang: string): string {
  const named = String(item.values.currency ?? "").toUpperCase();
  const currency = ISO_4217.test(named) ? named : CURRENCY;
  return new Intl.NumberFormat(lang, { style: "currency", currency }).format(amount);
}

/** What a product costs: less than before where it is on sale. */
export function priceOf(item: LiveItem): { now: number | null; before: number | null } {
  const [price, sale] = [numberOf(item, "price"), numberOf(item, "sale_price")];
  const onSale = sale !== null && (price === null || sale < price);
  return { now: onSale ? sale : price, before: onSale ? price : null };
}

/** Whether it can be had: products whose stock nobody counts always can. */
export const inStock = (item: LiveItem): boolean => (numberOf(item, "stock") ?? 1) > 0;

const percent = (item: LiveItem): number => {
  const { now, before } = priceOf(item);
  return now !== null && before ? Math.round((1 - now / before) * 100) : 0;
};
/** By how much of a hundred it is cheaper than before. */
export const reductionOf = percent;

export const catalogue: ItemKind = {
  kind: "catalogue",
  source: "Catalogue",
  sources: "Catalogues",
  item: "product",
  moment: "Added",
  fields: [
    { id: "link", label: "Link", type: "web" },
    { id: "summary", label: "Description", type: "text" },
    { id: "price", label: "Price", type: "number", format: { decimals: 2 } },
    { id: "sale_price", label: "Sale price", type: "number", format: { decimals: 2 } },
    { id: "currency", label: "Currency", type: "text" },
    { id: "stock", label: "Stock", type: "number", format: { decimals: 0 } },
    { id: "categories", label: "Categories", type: "choices", options: [] },
    // Of what comes from a file: from there its picture is fetched.
    { id: "image", label: "Image address", type: "web" },
  ],
  made: [
    {
      id: "pays",
      label: "What it costs now",
      say(item, lang) {
        const { now } = priceOf(item);
        return now === null ? "" : itemMoney(item, now, lang);
      },
    },
    {
      id: "before",
      label: "Price before the sale",
      say(item, lang) {
        const { before } = priceOf(item);
        return before === null ? "" : itemMoney(item, before, lang);
      },
    },
    {
      id: "reduction",
      label: "Reduction in per cent",
      say: (item, lang) =>
        percent(item)
          ? new Intl.NumberFormat(lang, { style: "percent" }).format(-percent(item) / 100)
          : "",
    },
  ],
};
