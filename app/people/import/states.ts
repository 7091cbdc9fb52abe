/** How far an import is, in words. */
import type { ImportState } from "#server/store/imports.ts";

export const IMPORT_STATES: Record<
  ImportState,
  { label: string; tone: "plain" | "some" | "done" | "wrong" }
> = {
  uploaded: { label: "to be mapped", tone: "some" },
  checking: { label: "being read", tone: "plain" },
  checked: { label: "to be looked at", tone: "some" },
  applying: { label: "being taken in", tone: "plain" },
  done: { label: "taken in", tone: "done" },
  undoing: { label: "being taken back", tone: "plain" },
  undone: { label: "taken back", tone: "plain" },
  failed: { label: "not taken in", tone: "wrong" },
};
export const BUSY: readonly ImportState[] = ["checking", "applying", "undoing"];
