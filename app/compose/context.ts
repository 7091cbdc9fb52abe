/** What the parts of the composer share. */
import { createContext, useContext } from "react";
import type { Edit, EmailDocument } from "#core/document/index.ts";
import type { Field } from "#core/fields/index.ts";
import type { Picture, Surroundings } from "#core/kinds/kind.ts";
import type { Reader, TagContext } from "#core/merge/index.ts";
import type { WhoSees } from "../rules/who-sees.ts";
import type { Doing } from "./doing.ts";
import type { History } from "./history/use-looking.ts";
import type { Inspection } from "./inspecting/inspect.ts";
import type { Load } from "./load.ts";
import type { Placing } from "./placing/use-placing.ts";
import type { Session } from "./session/session.ts";
import type { Selection } from "./use-selection.ts";
import type { Presence, ReaderChoice } from "./wire.ts";

export type SheetName = "wide" | "narrow";

export interface Composer extends Selection {
  readonly campaign: string;
  readonly session: Session;
  /** The email as it is shown: as it is now, or as it was where an earlier state is looked at. */
  readonly doc: EmailDocument;
  /** The language the sheets show, and the email in it. */
  readonly lang: string;
  readonly shown: EmailDocument;
  /** The language that was chosen for the sheets; null for the reader's own. */
  readonly language: string | null;
  /** The email as it is now. */
  readonly newest: EmailDocument;
  readonly history: History;
  /** What the checks find about the email, a moment after hands rest. */
  readonly inspection: Inspection | null;
  /** Others who have this email open. */
  readonly others: readonly Presence[];
  readonly fields: readonly Field[];
  readonly surroundings: Surroundings;
  readonly reader: Reader;
  /** What writing a merge tag needs to know of the email. */
  readonly tags: TagContext;
  /** Who sees what among the campaign's readers; null until it is known. */
  readonly whoSees: WhoSees | null;
  /** All that only some readers see is shown at once, one under another. */
  readonly everything: boolean;
  readonly readingAs: ReaderChoice | null;
  /** Why nothing can be changed, in a sentence; null where all can. */
  readonly fixed: string | null;
  /** The text being written on a sheet. */
  readonly writing: { readonly node: string; readonly on: SheetName | null } | null;
  /** What is on its way into the email, by drag or by keyboard. */
  readonly placing: Placing;
  /** Asks for a text to be written: on a sheet, or on whichever answers. */
  write(id: string | null, on?: SheetName): void;
  edit(edit: Edit): boolean;
  /** Does it and selects what it says; nothing where it is null. Gives whether it was done. */
  run(doing: Doing | null): boolean;
  /** Opens the translations to a language. */
  translate(lang: string): void;
  /** Opens find and replace. */
  openFind(): void;
  /** Opens the list of all blocks. */
  openList(): void;
  /** Puts something in after the selection. */
  add(load: Load): void;
  addPicture(picture: Picture): void;
  /** Sends picture files to the library and puts each in after the selection. */
  addFiles(files: readonly File[]): void;
  /** Says something in passing. */
  say(words: string, tone?: "plain" | "wrong"): void;
  /** Says something to screen readers alone. */
  announce(words: string): void;
}

export const ComposerContext = createContext<Composer | null>(null);

export function useComposer(): Composer {
  const composer = useContext(ComposerContext);
  if (!composer) throw new Error("Only inside the composer");
  return composer;
}
