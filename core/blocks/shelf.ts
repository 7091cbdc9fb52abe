import { paragraph, type TextJson } from "../text/index.ts";
import { field, more, picture, title, words } from "./item-designs.ts";
import { itemList } from "./item-list.ts";

/** What a product costs, and in a sale what it cost before. */
const price = (): TextJson => {
  const tag = (id: string, mark: string): TextJson => ({
    type: "tag",
    attrs: { ...field(id) },
    marks: [{ type: mark }],
  });
  const content = [tag("pays", "strong"), { type: "text", text: " " }, tag("before", "strike")];
  return { type: "paragraph", content };
};
const said = (id: string) => paragraph(field(id));

/** A single product, picked by hand. */
export const product = itemList({
  type: "product",
  label: "Product",
  icon: "tag",
  items: "catalogue",
  one: true,
  choice: {},
  emptyWords: "",
  designs: [
    {
      id: "below",
      label: "Image above",
      props: {},
      blocks: (newId) => [
        picture(newId),
        title(newId),
        words(newId, price(), said("summary")),
        more(newId, "See it"),
      ],
    },
    {
      id: "plain",
      label: "Image, name and price",
      props: {},
      blocks: (newId) => [picture(newId), title(newId), words(newId, price())],
    },
  ],
});

/** Products, picked by hand or by rule. */
export const shelf = itemList({
  type: "shelf",
  label: "Shelf",
  icon: "shopping-basket",
  items: "catalogue",
  choice: { order: "sold", fill: "newest", count: 3, inStock: true },
  emptyWords: "",
  designs: [
    {
      id: "three",
      label: "Three in a row",
      props: { perRow: 3, gap: 16, shape: 100 },
      blocks: (newId) => [picture(newId), title(newId), words(newId, price())],
    },
    {
      id: "two",
      label: "Two in a row, with a button",
      props: { perRow: 2, gap: 16, shape: 75 },
      blocks: (newId) => [
        picture(newId),
        title(newId),
        words(newId, price(), said("summary")),
        more(newId, "See it"),
      ],
    },
    {
      id: "names",
      label: "Names and prices",
      props: { perRow: 1, gap: 4, shape: null, whole: true },
      blocks: (newId) => [words(newId, said("title"), price())],
    },
  ],
});
