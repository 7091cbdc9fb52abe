/** How far an import is, in words. */
import type { ImportState } from "#server/store/imports.ts";

export const IMPORT_STATES: Record<
  ImportState,
  { label: string; tone: "plain" | "some" | "done" | "wrong" }
> = {
  uploaded: { label: "to be mapped", tone: "some" },
  checking: { label: "being read", tone: "plain" },
  checked: { label: "to be looked at", tone: "some" },
  applying: { label: "being imported", tone: "plain" },
  done: { label: "imported", tone: "done" },
  undoing: { label: "being undone", tone: "plain" },
  undone: { label: "undone", tone: "plain" },
  failed: { label: "not imported", tone: "wrong" },
};
export const BUSY: readonly ImportState[] = ["checking", "applying", "undoing"];
