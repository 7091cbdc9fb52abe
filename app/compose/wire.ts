/** What the composer and the server say to each other. */
import type { EmailDocument, StoredEdit } from "#core/document/index.ts";
import type { Presence } from "#server/followers.ts";
import type { HistoryStep } from "#server/store/history.ts";
import type { Moment } from "#server/store/moments.ts";

export interface EditsAnswer {
  readonly edits: StoredEdit[];
  readonly problem: "stale" | "refused" | null;
  readonly message: string | null;
  /** What the person can undo and redo now. */
  readonly can: { readonly undo: boolean; readonly redo: boolean };
  /** The stored state, where an edit was refused. */
  readonly stored: { readonly seq: number; readonly doc: EmailDocument } | null;
}

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
export type { HistoryStep, Moment, Presence };

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
