import { z } from "zod";
import { type EmailDocument, type SimpleEdit, walk } from "../document/index.ts";
import { FIELD_ID } from "../fields/index.ts";
import { type ToldItem, toldItemSchema } from "../items/index.ts";
import { type Json, sameJson } from "../json.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { doc, line, linkSchema, phrase, wordsOf } from "../text/index.ts";
import {
  type PictureAndWords,
  pictureAndWords,
  pictureAndWordsSchema,
} from "./picture-and-words.ts";

/** Its type. */
export const ARTICLE = "article";

const linkedSchema = z.strictObject({
  source: z.string().regex(FIELD_ID),
  key: z.string().min(1).max(LIMITS.lineLength),
  /** What the item was when the block took it: what it is now can be told from that. */
  told: toldItemSchema,
});
export type LinkedItem = z.infer<typeof linkedSchema>;

const schema = z.strictObject({
  ...pictureAndWordsSchema.shape,
  /** The item it is of; null where it keeps to none any more. */
  item: linkedSchema.nullable(),
});
type Article = z.infer<typeof schema>;

/** The properties that an item gives, as they are written. */
function written({
  title,
  summary,
  link,
  picture,
}: ToldItem): Partial<Record<keyof Article, Json>> {
  const to = link ? linkSchema.safeParse({ kind: "web", address: line(link) }).data : null;
  return {
    title: phrase(title) as never,
    // The picture is a link, and is called what the link leads to (WCAG 2.2, 2.4.4).
    alt: line(title) as never,
    words: doc(summary) as never,
    to: (to ?? { kind: "none" }) as never,
    picture,
  };
}

/** What a new article says of an item. */
export function articleProps(source: string, key: string, told: ToldItem): Record<string, Json> {
  const parts = {
    picture: told.picture !== null,
    title: true,
    words: told.summary !== "",
    button: told.link !== "",
  };
  return {
    ...written(told),
    parts,
    item: { source, key, told } as never,
  } as never;
}

/** The items that an email keeps to. */
export const linkedItems = ({ root }: Pick<EmailDocument, "root">): LinkedItem[] =>
  [...walk(root)].flatMap(({ type, props }) =>
    type === ARTICLE && props.item ? [props.item as unknown as LinkedItem] : [],
  );

/** The edits that take an item as it is now: what was changed by hand since it was taken stays. */
export function takenAnew(node: string, props: Article, now: ToldItem): SimpleEdit[] {
  if (!props.item) return [];
  const [before, after] = [written(props.item.told), written(now)];
  const own = props as unknown as Record<string, Json>;
  const edits = Object.keys(after).flatMap((name): SimpleEdit[] => {
    const value = (after as Record<string, Json>)[name]!;
    const isTheirs = sameJson(own[name]!, (before as Record<string, Json>)[name]!);
    return isTheirs && !sameJson(own[name]!, value)
      ? [{ type: "set", node, path: [name], value }]
      : [];
  });
  return [...edits, { type: "set", node, path: ["item", "told"], value: now as never }];
}

/** What of an item is another than it was, in words; nothing where it is as it was taken. */
export function articleChanges({ told }: LinkedItem, now: ToldItem): string[] {
  return [
    ...(told.title !== now.title ? [`Its title is now “${now.title}”.`] : []),
    ...(told.summary !== now.summary ? ["Its words are others."] : []),
    ...(told.link !== now.link ? ["It stands at another address."] : []),
    ...(told.picture !== now.picture ? ["It has another image."] : []),
  ];
}

/** An item of a feed, as an image with text. It can be written on and dressed like one, and keeps to its item. */
export const article: BlockKind<Article> = {
  ...(pictureAndWords as unknown as BlockKind<Article>),
  type: ARTICLE,
  label: "Article",
  group: "live",
  icon: "newspaper",
  schema,
  create: () => ({
    ...(pictureAndWords.create() as PictureAndWords),
    title: phrase("An article of a feed"),
    words: doc(
      "Choose one from the items above the tray: it brings its image, its words and its link.",
    ),
    linkTitle: true,
    item: null,
  }),
  name: ({ title }) => wordsOf(title),
  content: [{ control: "item", path: ["item"], label: "Item" }, ...pictureAndWords.content],
};
