/** The settings panel: the path on top, then the settings of what is selected. */
import { Copy, Trash2 } from "lucide-react";
import { memo, useDeferredValue, useState } from "react";
import { labelOf, nodeKind } from "#core/blocks/index.ts";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, find, isItem, pathTo } from "#core/document/index.ts";
import { Button } from "../../ui/button.tsx";
import { duplicate, takeOut } from "../doing/actions.ts";
import { useCommands } from "../doing/commands.ts";
import { useFindings } from "../inspecting/findings.ts";
import { LanguageSettings } from "../languages/settings.tsx";
import { useReading } from "../reading/reading.ts";
import { type SelectionState, useSelecting, useSelection } from "../selection/selection.ts";
import { SeenSection } from "../who/seen-section.tsx";
import { BandSettings } from "./band.tsx";
import { BlockSettings } from "./block.tsx";
import { EmailSettings, EnvelopeSettings } from "./email.tsx";
import { FindingsNote } from "./findings.tsx";
import { HeldNote, HoldSection } from "./hold.tsx";
import { LinkedNote } from "./linked.tsx";
import { SaveBlocks } from "./save-blocks.tsx";
import { SeveralSettings } from "./several.tsx";
import { StartsSection } from "./starts.tsx";
import { useStill } from "./still.ts";
import { StyleMenu } from "./style/style-menu.tsx";
import { TagsUsed } from "./tags-used.tsx";
import { ThemeSection } from "./theme.tsx";

/** What a step of the path is called: bands by their names, columns by their numbers. */
function stepName(path: readonly DocNode[], i: number): string {
  const node = path[i]!;
  if (node.type === "band") return nameOf(node);
  const among = path[i - 1]?.children ?? [];
  if (node.type !== "column" || among.length === 1) return labelOf(node);
  return `${labelOf(node)} ${among.indexOf(node) + 1}`;
}

/** What is selected, of the email as it is known beside the sheets: what has just been put down is so a moment later. */
function useSelectedHere(): Pick<SelectionState, "selected" | "chosen"> {
  const { doc } = useReading("doc");
  const now = useSelection("selected", "chosen");
  const [known, setKnown] = useState(now);
  if (known !== now && now.chosen.every((id) => find(doc, id))) setKnown(now);
  return known;
}

export function SettingsPanel() {
  // A block shows on the sheets first that it is selected, or that it has come; its settings are drawn after.
  return <Settings {...useDeferredValue(useSelectedHere())} />;
}

const Settings = memo(function Settings({
  selected,
  chosen,
}: Pick<SelectionState, "selected" | "chosen">) {
  const { doc } = useReading("doc");
  const { select } = useSelecting();
  const { run } = useCommands();
  const { inspection } = useFindings("inspection");
  const node = selected && selected !== "envelope" ? find(doc, selected)?.node : undefined;
  const path = node ? pathTo(doc, node.id) : [];
  const own = selected === doc.root.id ? ["envelope", "email", doc.root.id] : [selected];
  const found = inspection?.findings.filter((one) => own.includes(one.at)) ?? [];
  const still = useStill(selected, found.map(({ message, detail }) => message + detail).join());
  const notes = (
    <div ref={still.notes} className="-mb-5 flex-none">
      {found.length > 0 && (
        <div className="pb-5">
          <FindingsNote findings={found} />
        </div>
      )}
    </div>
  );
  return (
    <aside
      aria-label="Settings"
      ref={still.panel}
      onPointerLeave={still.leave}
      className="flex min-h-0 flex-col gap-5 overflow-y-auto [overflow-anchor:none] border-l p-3.5 pb-8 max-[560px]:border-t max-[560px]:border-l-0"
    >
      {selected === "envelope" ? (
        <>
          {notes}
          <EnvelopeSettings key="envelope" />
        </>
      ) : chosen.length > 1 ? (
        <SeveralSettings />
      ) : !node ? (
        <p className="text-ink-3">
          Select something on a sheet or in the running order, and its settings stand here.
        </p>
      ) : (
        <>
          <nav aria-label="Path" className="-mb-2 flex flex-wrap gap-1 text-small text-ink-2">
            {path.map((one, i) => (
              <span key={one.id} className="flex gap-1">
                {i > 0 && <span aria-hidden>›</span>}
                {one === node ? (
                  <strong aria-current="true">{stepName(path, i)}</strong>
                ) : (
                  <button
                    type="button"
                    className="hover:text-plum hover:underline"
                    onClick={() => select(one.id)}
                  >
                    {stepName(path, i)}
                  </button>
                )}
              </span>
            ))}
          </nav>
          {notes}
          <HeldNote node={node} />
          <LinkedNote node={node} />
          {/* A key per node, so that no field carries over what was typed for another. */}
          <div key={node.id} className="flex flex-col gap-5">
            {node.type === "email" && (
              <>
                <EmailSettings />
                <LanguageSettings />
                <EnvelopeSettings />
                <TagsUsed />
                <StartsSection />
                <ThemeSection />
              </>
            )}
            {node.type === "band" && <BandSettings node={node} />}
            {node.type === "column" && (
              <>
                <p className="text-ink-3">
                  A column of {nameOf(path[1]!)}. Its width is set with the band’s columns.
                </p>
                <SeenSection node={node} />
              </>
            )}
            {nodeKind(node.type) && <BlockSettings node={node} holder={path.at(-2) ?? null} />}
            {node.type !== "email" && node.type !== "column" && (
              <>
                {!isItem(node.type) && <HoldSection node={node} />}
                <div className="flex flex-wrap gap-2 border-t pt-3">
                  {nodeKind(node.type) && <StyleMenu node={node} />}
                  <Button onClick={() => run(duplicate(doc, [node.id]))}>
                    <Copy className="size-3.5" /> Duplicate
                  </Button>
                  {!isItem(node.type) && <SaveBlocks nodes={[node]} proposed={nameOf(node)} />}
                  <Button onClick={() => run(takeOut(doc, [node.id]))}>
                    <Trash2 className="size-3.5" /> Delete
                  </Button>
                </div>
              </>
            )}
          </div>
        </>
      )}
      <div ref={still.room} className="-mt-5 flex-none" />
    </aside>
  );
});
