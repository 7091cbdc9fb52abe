import { expect, it } from "vitest";
import { runChecks } from "../checks/index.ts";
import { apply, type DocNode, find } from "../document/index.ts";
import { itemRef, type LiveItem, type ToldItem } from "../items/index.ts";
import { ids, PICTURE, SURROUNDINGS } from "../testing/rendered.ts";
import { phrase, type TextJson } from "../text/index.ts";
import {
  articleChanges,
  articleProps,
  type LinkedItem,
  linkedItems,
  takenAnew,
} from "./article.ts";
import { createBand, createBlock, createColumn, createDocument } from "./index.ts";

const told: ToldItem = {
  title: "Frost on the beds",
  summary: "What the cold left.",
  link: "https://notes.example/frost",
  picture: PICTURE,
};
const made = (item: ToldItem) => {
  const id = ids("a");
  const node = createBlock("article", id, articleProps("notes", "k1", item) as never);
  return { node, doc: createDocument([createBand(id, [createColumn(id, [node])])]) };
};
const plain = ({ text, content = [] }: TextJson): string => text ?? content.map(plain).join("");
const wordsIn = ({ props }: DocNode, name: string) => plain(props[name] as unknown as TextJson);

it("says what its item says, and has the parts that the item has", () => {
  const { node, doc } = made(told);
  expect(wordsIn(node, "title")).toBe("Frost on the beds");
  expect(wordsIn(node, "words")).toBe("What the cold left.");
  expect(wordsIn(node, "alt")).toBe("Frost on the beds");
  // Nothing is to be mended in it; its level is fitted where it is put down.
  const found = runChecks(doc, SURROUNDINGS, new Map()).filter(({ at }) => at === node.id);
  expect(found.map(({ check }) => check)).toEqual(["outline"]);
  expect(node.props).toMatchObject({
    picture: PICTURE,
    to: { kind: "web" },
    parts: { picture: true, title: true, words: true, button: true },
  });
  expect(linkedItems(doc)).toEqual([{ source: "notes", key: "k1", told }]);
  const bare = made({ ...told, summary: "", link: "", picture: null }).node;
  expect(bare.props).toMatchObject({
    to: { kind: "none" },
    parts: { picture: false, title: true, words: false, button: false },
  });
});

const liveItems = (told: ReadonlyMap<string, ToldItem>): ReadonlyMap<string, LiveItem> =>
  new Map(
    [...told].map(([ref, { title, picture, summary, link }]) => [
      ref,
      {
        source: "notes",
        key: "k1",
        kind: "feed",
        title,
        at: 0,
        picture,
        values: { summary, link },
      },
    ]),
  );

it("tells what has changed at its source, and the checks show it", () => {
  const { node, doc } = made(told);
  const item = node.props.item as unknown as LinkedItem;
  expect(articleChanges(item, told)).toEqual([]);
  const now = { ...told, title: "Frost on all the beds", link: "https://notes.example/new" };
  expect(articleChanges(item, now)).toEqual([
    "Its title is now “Frost on all the beds”.",
    "It stands at another address.",
  ]);
  const found = (items: ReadonlyMap<string, ToldItem>) =>
    runChecks(doc, { ...SURROUNDINGS, items: liveItems(items) }, new Map()).filter(
      ({ check }) => check === "articles",
    );
  expect(found(new Map([[itemRef("notes", "k1"), now]]))).toMatchObject([
    { severity: "look", at: node.id, message: "An article has changed at its source" },
  ]);
  expect(found(new Map([[itemRef("notes", "k1"), told]]))).toEqual([]);
  // One that is too old to be kept has not changed.
  expect(found(new Map())).toEqual([]);
});

it("is taken anew but for what was changed by hand", () => {
  const { node, doc } = made(told);
  const now = { ...told, title: "Another title", summary: "Other words.", picture: null };
  const byHand = apply(doc, {
    type: "set",
    node: node.id,
    path: ["title"],
    value: phrase("My own title") as never,
  });
  const before = find(byHand, node.id)!.node;
  const after = takenAnew(node.id, before.props as never, now).reduce(
    (all, edit) => apply(all, edit),
    byHand,
  );
  const taken = find(after, node.id)!.node;
  expect(wordsIn(taken, "title")).toBe("My own title");
  expect(wordsIn(taken, "words")).toBe("Other words.");
  expect(taken.props.picture).toBeNull();
  expect(articleChanges(taken.props.item as never, now)).toEqual([]);
});
