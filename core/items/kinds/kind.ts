/** A kind of item: what a feed, a catalogue or a calendar brings. */
import type { Field } from "../../fields/index.ts";
import type { LiveItem } from "../item.ts";

export interface ItemTag {
  readonly id: string;
  readonly label: string;
  /** The words for readers of a language (BCP 47); empty where the item has none. */
  say(item: LiveItem, lang: string): string;
}

export interface ItemKind {
  readonly kind: string;
  /** What a source of such items is called, several of them, and one item. */
  readonly source: string;
  readonly sources: string;
  readonly item: string;
  /** What its moment is. */
  readonly moment: string;
  /** Its fields, beside the title and the picture; further ones can be added by an import. */
  readonly fields: readonly Field[];
  /** Tags whose words are made of several fields. */
  readonly made: readonly ItemTag[];
  /** When it is over (ms since 1970); null for never. */
  ends?(item: LiveItem): number | null;
}
