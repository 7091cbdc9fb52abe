/** The fields of the item in whose design a block stands. */
import { blockKind } from "#core/blocks/index.ts";
import { type EmailDocument, isItemList, pathTo } from "#core/document/index.ts";
import { type ItemKind, itemKindOf, type LiveItem } from "#core/items/index.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { saidTag } from "#core/render/index.ts";
import type { Tag } from "#core/text/index.ts";
import { useReading } from "../reading/reading.ts";
import { useSelection } from "../selection/selection.ts";

export interface Designed {
  readonly kind: ItemKind;
  /** The item that is shown first, with which the design is seen; null where there is none. */
  readonly first: LiveItem | null;
  readonly zoneField: string | null;
}

/** The design a node stands in; null for none. */
export function designOf(
  doc: EmailDocument,
  node: string,
  { live, zoneField = null }: Pick<Surroundings, "live" | "zoneField">,
): Designed | null {
  const list = pathTo(doc, node).find(({ type }) => isItemList(type));
  const kind = list && blockKind(list.type)?.items;
  if (!list || !kind || list.id === node) return null;
  return { kind: itemKindOf(kind), first: live?.get(list.id)?.items[0] ?? null, zoneField };
}

/** A tag as the first item says it. */
export const firstSays = (tag: Tag, designed: Designed | null, lang: string): Tag =>
  designed?.first
    ? saidTag(tag, designed.first, { lang, base: "", zoneField: designed.zoneField })
    : tag;

/** The design in which the selected block stands; null for none. */
export function useDesigned(): Designed | null {
  const { doc, surroundings } = useReading("doc", "surroundings");
  const { selected } = useSelection("selected");
  return selected === null ? null : designOf(doc, selected, surroundings);
}
