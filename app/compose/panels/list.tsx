/** Every panel of the composer that is opened and closed. A new one is a line here, and its subject in `open.ts`. */
import type { ComponentType } from "react";
import { FindBar } from "../find/find-bar.tsx";
import { HistoryPanel } from "../history/panel.tsx";
import { Translations } from "../languages/translations.tsx";
import { BlockList } from "./block-list.tsx";
import { type PanelName, useOpenPanels, usePanels } from "./open.ts";
import type { PanelProps } from "./panel.ts";

/** Over the sheets, at the side in the place of the settings, or over everything. */
export type PanelPlace = "strip" | "side" | "over";

const PANELS: Readonly<Record<PanelName, { place: PanelPlace; View: ComponentType<PanelProps> }>> =
  {
    find: { place: "strip", View: FindBar },
    history: { place: "side", View: HistoryPanel },
    translations: { place: "over", View: Translations },
    blocks: { place: "over", View: BlockList },
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
    return <View key={name} subject={String(open[name])} onClose={() => close(name)} />;
  });
}
