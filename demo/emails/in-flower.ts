/** A draft that lives on what the garden's shop, notebook and calendar have this week. */
import { blockKind, createBlock, createDocument } from "#core/blocks/index.ts";
import type { ItemListProps } from "#core/blocks/item-list.ts";
import type { DocNode, EmailDocument, ItemList } from "#core/document/index.ts";
import { type Choice, newChoice } from "#core/items/index.ts";
import { doc, line, paragraph, phrase } from "#core/text/index.ts";
import {
  bandOf,
  counter,
  type DemoPictures,
  envelope,
  firstName,
  footer,
  GARDEN_THEME,
  masthead,
  wideImage,
} from "./parts.ts";

/** A block of items in one of its designs. */
function items(
  id: () => string,
  type: ItemList,
  design: string,
  choice: Partial<Choice>,
  props: Partial<ItemListProps> = {},
): DocNode {
  const { designs = [] } = blockKind(type)!;
  const own = designs.find((one) => one.id === design)!;
  const all = { ...own.props, ...props, choice: newChoice(choice) };
  return createBlock(type, id, all, own.blocks(id));
}
const title = (id: () => string, words: string) =>
  createBlock("heading", id, { words: phrase(words), level: 2 });

export function inFlower(pictures: DemoPictures): EmailDocument {
  const id = counter("f");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      wideImage(
        id,
        pictures["early-flowers"],
        "Rows of early white flowers along the brook",
        "https://larkmoor.example/visit",
      ),
      createBlock("heading", id, { words: phrase("What is in flower this week") }),
      createBlock("text", id, {
        words: doc(
          paragraph(
            "Dear ",
            firstName("gardener"),
            ", here is the week at a glance: what to sow, what to read by the stove, and where to walk.",
          ),
        ),
      }),
    ]),
    bandOf(id, "Picked for your beds", [
      title(id, "Picked for your beds"),
      items(id, "shelf", "three", {
        ...{ order: "together", fill: "sold", days: 365, count: 3 },
        ...{ inStock: true, unbought: true },
      }),
    ]),
    bandOf(id, "From the notebook", [
      title(id, "From the notebook"),
      items(id, "digest", "beside", { order: "newest", count: 3, newerThan: 60 }),
    ]),
    bandOf(id, "Walks near you", [
      title(id, "Walks near you"),
      items(
        id,
        "events",
        "list",
        { order: "soonest", count: 2, match: { field: "place", reader: "site" } },
        { emptyWords: line("The next walks at your garden are being planned.") },
      ),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line("What is in flower this week"),
      line("Three things for your beds, and two walks near you"),
    ),
  });
}
