/** Items of sources: what they are, and which of them come into an email. How those of feeds are read stands in `feeds`. */
export * from "./changes.ts";
export * from "./choice.ts";
export * from "./choose.ts";
export * from "./counts.ts";
export * from "./item.ts";
export { LOCAL_TIME, otherClock } from "./kinds/calendar.ts";
export { inStock, priceOf } from "./kinds/catalogue.ts";
export {
  ITEM_KINDS,
  type ItemKind,
  type ItemTag,
  itemKindOf,
  kindBySlug,
  slugOf,
  tagsOfKind,
} from "./kinds/index.ts";
export {
  type Counts,
  type Deed,
  ORDERS,
  type Order,
  orderOf,
  ordersFor,
  type Past,
} from "./orders.ts";
export * from "./send-plan.ts";
