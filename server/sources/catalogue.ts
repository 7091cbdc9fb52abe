/** Lists of products that shops have on the web, as CSV or JSON. */
import { readProducts } from "#core/items/products/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { SourceKind } from "./source.ts";

export const catalogue: SourceKind = {
  kind: "catalogue",
  accept: "application/json, text/csv, */*;q=0.5",
  every: LIMITS.feedEvery,
  read({ bytes, address, contentType }) {
    const { title, items } = readProducts(bytes, { address, contentType });
    return { title, home: new URL("/", address).href, items, whole: true };
  },
};
