/** What is selected: one thing, or several pieces that are handled together. */
import { useCallback, useEffect, useState } from "react";
import { type EmailDocument, find } from "#core/document/index.ts";
import { range, standing, toggled } from "./chosen.ts";

export type How = "one" | "toggle" | "range";

export interface Selection {
  /** `envelope`, or the id of a node; null selects nothing. The last that was chosen, where there are several. */
  readonly selected: string | null;
  /** The nodes that a key or a button acts on, in the order they stand. */
  readonly chosen: readonly string[];
  select(what: string | readonly string[] | null, how?: How): void;
}

interface State {
  readonly selected: string | null;
  readonly chosen: readonly string[];
  /** Where a range begins. */
  readonly anchor: string | null;
}

const one = (id: string | null): State => ({
  selected: id,
  chosen: id && id !== "envelope" ? [id] : [],
  anchor: id,
});

/** `now` gives the newest document, which may be ahead of the one that is drawn. */
export function useSelection(
  doc: EmailDocument,
  now: () => EmailDocument,
  start: string | null,
): Selection {
  const [state, setState] = useState<State>(() => one(start));
  const select = useCallback<Selection["select"]>(
    (what, how = "one") => {
      setState((before) => {
        if (
          what === null ||
          how === "one" ||
          before.anchor === null ||
          before.anchor === "envelope"
        ) {
          if (what === null || typeof what === "string") return one(what);
          return { ...one(what[0] ?? null), chosen: what };
        }
        const id = typeof what === "string" ? what : (what[0] ?? "");
        const current = now();
        if (id === "envelope" || !find(current, id)) return before;
        if (how === "range") {
          return { ...before, selected: id, chosen: range(current, before.anchor, id) };
        }
        const chosen = toggled(current, before.chosen, id);
        if (chosen.length === 0) return one(null);
        const selected = chosen.includes(id) ? id : chosen[0]!;
        return { selected, chosen, anchor: selected };
      });
    },
    [now],
  );
  // What was selected may have been taken out by somebody else.
  useEffect(() => {
    setState((before) => {
      const { selected, chosen } = before;
      const gone = selected !== null && selected !== "envelope" && !find(doc, selected);
      const left = standing(doc, chosen);
      if (!gone && left === chosen) return before;
      return gone ? { ...one(left[0] ?? null), chosen: left } : { ...before, chosen: left };
    });
  }, [doc]);
  return { selected: state.selected, chosen: state.chosen, select };
}
