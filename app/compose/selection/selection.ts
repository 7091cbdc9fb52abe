/** What is selected, what the pointer is over, and which text is being written. */
import { createStore } from "zustand";
import { type EmailDocument, find } from "#core/document/index.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { SheetName } from "../sheets/views.ts";
import { range, standing, toggled } from "./chosen.ts";

export type How = "one" | "toggle" | "range";

export interface SelectionState {
  /** `envelope`, or the id of a node; null selects nothing. The last that was chosen, where there are several. */
  readonly selected: string | null;
  /** The nodes that a key or a button acts on, in the order they stand. */
  readonly chosen: readonly string[];
  /** Where a range begins. */
  readonly anchor: string | null;
  /** The node under the pointer. */
  readonly hovered: string | null;
  /** The text that is to be written: on a sheet, or on whichever answers. */
  readonly writing: { readonly node: string; readonly on: SheetName | null } | null;
}

export interface Selection {
  readonly store: Readable<SelectionState>;
  select(what: string | readonly string[] | null, how?: How): void;
  hover(id: string | null): void;
  /** Asks for a text to be written; null ends it. */
  write(id: string | null, on?: SheetName): void;
}

const one = (id: string | null): Pick<SelectionState, "selected" | "chosen" | "anchor"> => ({
  selected: id,
  chosen: id && id !== "envelope" ? [id] : [],
  anchor: id,
});

/** `showing` has the email as it is shown. */
export function createSelection(
  showing: Readable<{ readonly doc: EmailDocument; readonly fixed: string | null }>,
  start: string | null,
): Selection {
  const store = createStore<SelectionState>(() => ({
    ...one(start),
    hovered: null,
    writing: null,
  }));
  const { getState, setState } = store;

  function next(what: Parameters<Selection["select"]>[0], how: How): Partial<SelectionState> {
    const before = getState();
    const { doc } = showing.getState();
    if (what === null || how === "one" || before.anchor === null || before.anchor === "envelope") {
      if (what === null || typeof what === "string") return one(what);
      return { ...one(what[0] ?? null), chosen: what };
    }
    const id = typeof what === "string" ? what : (what[0] ?? "");
    if (id === "envelope" || !find(doc, id)) return {};
    if (how === "range") return { selected: id, chosen: range(doc, before.anchor, id) };
    const chosen = toggled(doc, before.chosen, id);
    if (chosen.length === 0) return one(null);
    const selected = chosen.includes(id) ? id : chosen[0]!;
    return { selected, chosen, anchor: selected };
  }

  // What was selected may have been taken out by somebody else.
  showing.subscribe(({ doc }, before) => {
    if (doc === before.doc) return;
    const { selected, chosen } = getState();
    const gone = selected !== null && selected !== "envelope" && !find(doc, selected);
    const left = standing(doc, chosen);
    if (gone) setState({ ...one(left[0] ?? null), chosen: left });
    else if (left !== chosen) setState({ chosen: left });
  });

  return {
    store,
    select(what, how = "one") {
      const { writing } = getState();
      setState({ ...next(what, how), writing: writing?.node === what ? writing : null });
    },
    hover(id) {
      if (getState().hovered !== id) setState({ hovered: id });
    },
    write(id, on) {
      const { writing } = getState();
      if (id === null ? writing === null : showing.getState().fixed !== null) return;
      setState({ writing: id === null ? null : { node: id, on: on ?? null } });
    },
  };
}

export const { Provider: SelectionProvider, use: useSelecting } =
  handedDown<Selection>("selection");
export const useSelection = readsOf(useSelecting);
