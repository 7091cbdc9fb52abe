/** What the composer and the server say to each other. */
import type { Edit, EmailDocument, StoredEdit } from "#core/document/index.ts";
import type { Item } from "#core/items/index.ts";
import type { ChosenAnswer } from "#server/campaigns/chosen.ts";
import type { Presence } from "#server/http/followers.ts";
import type { Spread } from "#server/sources/choosing.ts";
import type { HistoryStep } from "#server/store/history.ts";
import type { Moment } from "#server/store/moments.ts";

export interface EditsAnswer {
  /** The edits that were asked for, as they are stored. */
  readonly edits: StoredEdit[];
  /** The number of the state after them. */
  readonly seq: number;
  /** `stale`: made on a state that others have changed in the same place; `fixed`: it is being sent. */
  readonly problem: "stale" | "refused" | "fixed" | null;
  readonly message: string | null;
}

/** What was done before, for undo: each edit with the one that takes it back. */
export type EarlierAnswer = readonly (StoredEdit & { readonly inverse: Edit })[];

/** The history of an email, the last step first. */
export interface HistoryAnswer {
  readonly steps: readonly HistoryStep[];
  readonly moments: readonly Moment[];
}
/** The email as it was after an edit. */
export interface StateAnswer {
  readonly seq: number;
  readonly doc: EmailDocument;
}
export type { ChosenAnswer, HistoryStep, Moment, Presence, Spread };

/** What the dictionaries say: by language the words that are wrong, each with what it might be, and whether all were looked at. */
export interface SpellingAnswer {
  readonly words: readonly [
    lang: string,
    wrong: readonly [word: string, guesses: readonly string[]][],
    whole: boolean,
  ][];
}

/** What is asked of the writing helper. */
export type WritingQuestion =
  | { readonly about: "text"; readonly paragraphs: readonly string[]; readonly lang: string }
  | {
      readonly about: "subject";
      readonly subject: string;
      readonly preview: string;
      readonly lang: string;
    };

/** A contact as the composer shows and reads it. */
export interface ReaderChoice {
  readonly id: number;
  readonly name: string;
  readonly about: string;
  readonly values: { readonly [ref: string]: string | number | boolean | null };
}

/** An item as the shelf shows it. */
export interface ShelfItem extends Omit<Item, "at"> {
  /** What is known of it besides, in a line. */
  readonly about: string;
}
/** The sources there are, and a page of the items of one. */
export interface ItemPage {
  readonly sources: readonly {
    readonly id: string;
    readonly name: string;
    readonly kind: string;
    readonly items: number;
  }[];
  /** The one whose items these are, and their kind; null where there is none. */
  readonly source: string | null;
  readonly kind: string | null;
  /** How many of its items fit what is searched. */
  readonly found: number;
  readonly items: readonly ShelfItem[];
}
