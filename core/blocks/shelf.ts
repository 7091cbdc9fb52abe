import { pad } from "../kinds/common.ts";
import { paragraph, type TextJson } from "../text/index.ts";
import { cells, field, more, picture, title, words } from "./item-designs.ts";
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
      id: "facts",
      label: "A card of facts",
      props: { edge: { width: 1, colour: "line" }, corner: 6, inner: pad(16, 20) },
      blocks: (newId) => [
        picture(newId),
        title(newId, 2),
        cells(newId, [
          [paragraph("Price"), price()],
          [paragraph("In stock"), said("stock")],
          [paragraph("Kind"), said("categories")],
        ]),
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
      id: "table",
      label: "A table, one row for each",
      props: { perRow: 1, gap: 0, shape: null },
      blocks: (newId) => [cells(newId, [[said("title"), said("categories"), price()]])],
    },
    {
      id: "names",
      label: "Names and prices",
      props: { perRow: 1, gap: 4, shape: null, whole: true },
      blocks: (newId) => [words(newId, said("title"), price())],
    },
  ],
});
