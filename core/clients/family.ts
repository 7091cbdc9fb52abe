/** What a family of mail programs is: by what it does to an email, never by a name. */
import type { Page } from "./page.ts";

/** Something it does, with what that comes to in words. */
export interface Act {
  /** What an email loses by it: “rounded corners”. */
  readonly loses: string;
  /** What it makes of an HTML that shows it: its tests are made of these. */
  readonly tries: readonly { readonly html: string; readonly gives: string }[];
  /** On the HTML as it comes, before it is read as a tree. */
  before?(html: string): Done;
  /** On the tree; gives in how many places. */
  on?(page: Page): number;
  /** On the HTML it shows in the end. */
  after?(html: string): Done;
}

export interface Done {
  readonly html: string;
  readonly places: number;
}

export interface Family {
  readonly id: string;
  readonly label: string;
  /** What it does, in a sentence. */
  readonly says: string;
  readonly acts: readonly Act[];
  /** It shows words alone: of which part of the message. */
  readonly words?: "text" | "aloud";
  /** It is found on large screens alone. */
  readonly desktop?: true;
}

/** What an email loses in a family. */
export interface Lost {
  readonly what: string;
  readonly places: number;
}

export interface ShownBy {
  readonly html: string;
  readonly lost: readonly Lost[];
}
