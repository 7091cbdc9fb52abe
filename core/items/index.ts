/** Items of sources: what they are. How those of feeds are read stands in `feeds`. */
export { FEED_FIELDS } from "./fields.ts";
export {
  type Item,
  itemRef,
  type NewItem,
  type ToldItem,
  toldItem,
  toldItemSchema,
} from "./item.ts";
