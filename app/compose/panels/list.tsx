/** Every panel of the composer that is opened and closed. A new one is a line here, and its subject in `open.ts`. */
import { type ComponentType, lazy, Suspense } from "react";
import { type PanelName, useOpenPanels, usePanels } from "./open.ts";
import type { PanelProps } from "./panel.ts";

/** Over the sheets, at the side in the place of the settings, above the tray, or over everything. */
export type PanelPlace = "strip" | "side" | "tray" | "over";

interface Panel {
  readonly place: PanelPlace;
  readonly View: ComponentType<PanelProps>;
}

/** Loaded when it is first opened. */
const panel = (
  place: PanelPlace,
  load: () => Promise<{ default: ComponentType<PanelProps> }>,
): Panel => ({ place, View: lazy(load) });

const PANELS: Readonly<Record<PanelName, Panel>> = {
  find: panel("strip", () => import("../find/find-bar.tsx")),
  comments: panel("side", () => import("../comments/panel.tsx")),
  history: panel("side", () => import("../history/panel.tsx")),
  translations: panel("over", () => import("../languages/translations.tsx")),
  items: panel("tray", () => import("../live/shelf.tsx")),
  blocks: panel("over", () => import("./block-list.tsx")),
};
const NAMES = Object.keys(PANELS) as PanelName[];

/** The panels that stand open at a place; something else where there is none. */
export function OpenPanels({ at, or = null }: { at: PanelPlace; or?: React.ReactNode }) {
  const { close } = usePanels();
  const open = useOpenPanels(...NAMES);
  const here = NAMES.filter((name) => PANELS[name].place === at && open[name] !== undefined);
  if (here.length === 0) return or;
  return here.map((name) => {
    const { View } = PANELS[name];
    return (
      <Suspense key={name} fallback={or}>
        <View subject={String(open[name])} onClose={() => close(name)} />
      </Suspense>
    );
  });
}
