/** The sheets that are there, for whoever has to find something on one. */
import { handedDown } from "../shared.ts";
import type { SheetView } from "./view.ts";

export type SheetName = "wide" | "narrow";
export const SHEETS: readonly SheetName[] = ["wide", "narrow"];

export interface Views {
  /** The sheet of a name; null while it is not shown. */
  get(name: SheetName): SheetView | null;
  set(name: SheetName, view: SheetView | null): void;
  /** The sheet that answers where none is named: the wide one, or whichever is there. */
  answering(): SheetName;
}

export function createViews(): Views {
  const views = new Map<SheetName, SheetView | null>();
  return {
    get: (name) => views.get(name) ?? null,
    set: (name, view) => void views.set(name, view),
    answering: () => (views.get("wide") ? "wide" : "narrow"),
  };
}

export const { Provider: ViewsProvider, use: useViews } = handedDown<Views>("views");
