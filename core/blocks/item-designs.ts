/** Designs that blocks of items begin with: ordinary blocks with the fields of an item in them. */
import type { DocNode } from "../document/index.ts";
import { pad } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import {
  doc,
  ITEM_PICTURE,
  type Link,
  line,
  paragraph,
  phrase,
  type TextJson,
  tag,
} from "../text/index.ts";
import { button } from "./button.ts";
import { heading } from "./heading.ts";
import { image } from "./image.ts";
import { pictureAndWords } from "./picture-and-words.ts";
import { table } from "./table.ts";
import { newRow, TABLE_KINDS } from "./table-items.ts";
import { text } from "./text.ts";

/** A field of the item; nothing where it has none. */
export const field = (id: string) => tag(`item:${id}`, "");
export const toItem: Link = { kind: "web", address: line(field("link")) };

type Kind = { readonly type: string; create(): object };
const block = (newId: () => string, kind: Kind, props: object): DocNode => {
  const made = { ...kind.create(), ...props } as unknown as DocNode["props"];
  return { id: newId(), type: kind.type, props: made, children: [] };
};
/** A block without room at its sides: the block of items has it. */
const set = (kind: Kind, top: number, bottom: number) => {
  const { box } = kind.create() as { box: object };
  return { box: { ...box, padding: pad(top, 0, bottom) } };
};

export const picture = (newId: () => string): DocNode =>
  block(newId, image, {
    ...set(image, 0, 8),
    picture: ITEM_PICTURE,
    alt: line(field("title")),
    to: toItem,
    corner: 4,
  });

export const title = (newId: () => string, level: 2 | 3 = 3): DocNode =>
  block(newId, heading, {
    ...set(heading, 0, 4),
    words: phrase(field("title")),
    level,
    colour: "ink",
  });

export const words = (newId: () => string, ...paragraphs: (TextJson | string)[]): DocNode =>
  block(newId, text, { ...set(text, 0, 8), words: doc(...paragraphs) });

export const said = (id: string): TextJson => paragraph(field(id));

export const more = (newId: () => string, label: string): DocNode =>
  block(newId, button, { ...set(button, 4, 8), label: line(label), to: toItem });

/** Words that lead to the calendar file of an event. */
export const fileOf = (newId: () => string, label: string): DocNode => {
  const to: Link = { kind: "web", address: line(field("calendar_file")) };
  const marks = [{ type: "link", attrs: { to: to as never } }];
  const content: TextJson[] = [{ type: "text", text: label, marks }];
  return words(newId, { type: "paragraph", content });
};

/** Fields of the item in a row, or one under another with what they are called. */
export const cells = (newId: () => string, rows: readonly (readonly TextJson[])[]): DocNode => {
  const [first = []] = rows;
  const { box } = table.create() as { box: object };
  const columns = first.map((_, i) =>
    createItem(TABLE_KINDS.column, newId, {
      share: Math.round(100 / first.length),
      align: i > 0 && i === first.length - 1 ? "end" : "start",
    }),
  );
  return {
    ...block(newId, table, { box: { ...box, padding: pad(0, 0) }, header: false }),
    children: [
      ...columns,
      ...rows.map((row) =>
        newRow(
          newId,
          row.map((one) => doc(one)),
        ),
      ),
    ],
  };
};

/** Its picture beside its words. */
export const beside = (newId: () => string, id: string): DocNode =>
  block(newId, pictureAndWords, {
    ...set(pictureAndWords, 0, 0),
    picture: ITEM_PICTURE,
    alt: line(field("title")),
    title: phrase(field("title")),
    words: doc(paragraph(field(id))),
    to: toItem,
    linkTitle: true,
    share: 35,
  });
