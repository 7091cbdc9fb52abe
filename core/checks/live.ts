/** Blocks that show items of sources: what they have to show, and fields of items that stand where there is none. */
import { blockKind, labelOf } from "../blocks/index.ts";
import { type DocNode, isItemList } from "../document/index.ts";
import { type Choice, inStock, itemKindOf, type LiveItem, refOfItem } from "../items/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { ITEM_PICTURE, itemFieldOf } from "../text/index.ts";
import { type Check, placeOf, readersIn } from "./check.ts";

type Found = Omit<Finding, "check" | "at">;
const IN_CHOICE = ["choice"] as const;

/** What is wrong with what was picked by hand. */
function picked(
  node: DocNode,
  chosen: NonNullable<Choice["picked"]>,
  items: readonly LiveItem[],
): Found[] {
  const { item } = itemKindOf(blockKind(node.type)?.items ?? "");
  if (chosen.length === 0) {
    return [
      {
        severity: "stop",
        message: `No ${item} is picked`,
        detail: "Take one from the items, or take the block out.",
        in: IN_CHOICE,
      },
    ];
  }
  const there = new Set(items.map(refOfItem));
  const gone = chosen.filter((one) => !there.has(refOfItem(one))).length;
  if (gone === 0) return [];
  return [
    {
      severity: "stop",
      message: gone === 1 ? `A ${item} is gone from its source` : `${gone} ${item}s are gone`,
      detail: "It is not shown any more: pick another, or take it out.",
      in: IN_CHOICE,
    },
  ];
}

/** What is wrong with the items themselves. */
function ofItems(items: readonly LiveItem[], now: number | null): Found[] {
  return items.flatMap((item): Found[] => {
    const ends = itemKindOf(item.kind).ends?.(item);
    if (now !== null && ends !== undefined && ends !== null && ends < now) {
      return [
        {
          severity: "look",
          message: `“${item.title}” is over`,
          detail: "Pick another event.",
          in: IN_CHOICE,
        },
      ];
    }
    if (item.kind !== "catalogue" || inStock(item)) return [];
    return [
      {
        severity: "look",
        message: `“${item.title}” is sold out`,
        detail: "Readers would be led to something they cannot have.",
        in: IN_CHOICE,
      },
    ];
  });
}

/** A block that shows nothing, or for some nothing. */
function nothing(node: DocNode, items: readonly LiveItem[], none: number): Found[] {
  if (items.length > 0 && none === 0) return [];
  const whom = items.length === 0 ? "everybody" : readersIn(none);
  const shown =
    node.props.empty === "words"
      ? "Its words for that stand there."
      : node.props.empty === "band"
        ? "Its band is left out."
        : "Nothing stands there.";
  return [
    {
      severity: "look",
      message: `${labelOf(node)}: nothing fits for ${whom}`,
      detail: `${shown} A rule to fill up with helps.`,
      in: IN_CHOICE,
      people: null,
    },
  ];
}

export const liveItems: Check = {
  id: "live",
  run: ({ nodes, surroundings: { live }, readers, now }) =>
    nodes.flatMap(({ node }): Finding[] => {
      const list = isItemList(node.type) ? live?.get(node.id) : undefined;
      if (!list) return [];
      const choice = node.props.choice as unknown as Choice;
      const found = [
        ...(choice.picked ? picked(node, choice.picked, list.items) : []),
        // Of what anybody could have, it is nobody's until it is chosen.
        ...(list.perReader ? [] : ofItems(list.items, now)),
        ...(choice.picked ? [] : nothing(node, list.items, readers?.empty?.get(node.id) ?? 0)),
      ];
      return found.map((one) => ({ check: "live", at: node.id, ...one }));
    }),
};

/** Fields of an item that stand outside of the design of one: nobody knows which item is meant. */
export const strayFields: Check = {
  id: "stray-field",
  run({ mentions, nodes }) {
    const inDesign = new Set(
      nodes.flatMap(({ node }) => (isItemList(node.type) ? [...ids(node.children)] : [])),
    );
    const told = new Set<string>();
    return mentions.flatMap((mention): Finding[] => {
      const stray =
        (mention.what === "tag" && itemFieldOf(mention.tag.ref) !== null) ||
        (mention.what === "picture" && mention.picture === ITEM_PICTURE);
      const at = placeOf(mention.node);
      if (!stray || inDesign.has(mention.node.id) || told.has(at)) return [];
      told.add(at);
      return [
        {
          check: "stray-field",
          severity: "stop",
          message: "A field of an item stands outside of any item",
          detail: "It belongs into the design of a digest, a shelf or events. Take it out here.",
          at,
          in: mention.path,
        },
      ];
    });
  },
};

function* ids(nodes: readonly DocNode[]): Generator<string> {
  for (const node of nodes) {
    yield node.id;
    yield* ids(node.children);
  }
}
