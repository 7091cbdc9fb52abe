/** Settings of a block or an item: content, style, spacing, plain text, on which widths it shows. */
import { AlignCenter, AlignLeft, AlignRight } from "lucide-react";
import type { ReactNode } from "react";
import { blockKind, nodeKind } from "#core/blocks/index.ts";
import { isPartShown, partOf } from "#core/blocks/parts.ts";
import type { DocNode } from "#core/document/index.ts";
import { type Align, type BlockProps, type Dir, sideOf } from "#core/kinds/common.ts";
import type { Control } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { NumberField } from "../../ui/number-field.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { SeenSection } from "../who/seen-section.tsx";
import { TextHelp } from "../writing/text-help.tsx";
import { Controls, ControlView } from "./controls/index.tsx";
import { ItemsList } from "./items.tsx";
import { PaddingFields, Section, Shown } from "./parts.tsx";
import { PlainTextSection } from "./plain-text.tsx";
import { ContrastLine } from "./style/contrast-line.tsx";
import { Origin } from "./style/origin.tsx";

const SIDES = {
  left: { label: "Left", icon: <AlignLeft /> },
  center: { label: "Centre", icon: <AlignCenter /> },
  right: { label: "Right", icon: <AlignRight /> },
} as const;

/** The three alignments in the order they stand on screen. */
function alignsFor(dir: Dir): { value: Align; label: string; icon: ReactNode }[] {
  const order: Align[] = dir === "rtl" ? ["end", "center", "start"] : ["start", "center", "end"];
  return order.map((value) => ({ value, ...SIDES[sideOf(value, dir)] }));
}

const GROUND: readonly Control[] = [
  { control: "colour", path: ["box", "background"], label: "Background", none: "None" },
];

/** What every block has: the box it stands in. */
function BoxSettings({ node }: { node: DocNode }) {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const { box } = node.props as unknown as BlockProps;
  const dir = box.dir ?? (doc.root.props.dir as Dir);
  const aligns = alignsFor(dir);
  const set = (path: string, value: Align | Dir | number | null) =>
    edit({ type: "set", node: node.id, path: ["box", path], value });
  return (
    <Section title="Spacing">
      <Origin node={node} path={["box", "padding"]}>
        <PaddingFields
          key={node.id}
          node={node}
          path={["box", "padding"]}
          value={box.padding}
          label="Around it"
        />
      </Origin>
      <Origin node={node} path={["box", "align"]}>
        <div className="flex items-center justify-between">
          <span className="text-small text-ink-2">Alignment</span>
          <Segmented
            label="Alignment"
            value={box.align}
            options={aligns}
            onChange={(value) => set("align", value)}
          />
        </div>
      </Origin>
      <Origin node={node} path={["box", "alignNarrow"]}>
        <div className="flex items-center justify-between">
          <span className="text-small text-ink-2">On narrow</span>
          <Segmented
            label="Alignment on narrow"
            value={box.alignNarrow ?? box.align}
            options={aligns}
            onChange={(value) => set("alignNarrow", value)}
          />
        </div>
      </Origin>
      <div className="grid grid-cols-2 gap-2.5">
        <Origin node={node} path={["box", "border"]}>
          <ControlView
            node={node}
            control={{ control: "border", path: ["box", "border"], label: "Border" }}
          />
        </Origin>
        <Origin node={node} path={["box", "corner"]}>
          <NumberField
            label="Corners"
            unit="px"
            value={box.corner}
            min={0}
            max={LIMITS.corner}
            onValue={(value) => set("corner", value ?? 0)}
          />
        </Origin>
      </div>
      <ControlView
        node={node}
        control={{
          control: "choice",
          path: ["box", "dir"],
          label: "Text direction",
          options: [
            { value: null, label: "As the email" },
            { value: "ltr", label: "From left to right" },
            { value: "rtl", label: "From right to left" },
          ],
        }}
      />
    </Section>
  );
}

/** The part that a control switches on and off; null for any other control. */
const switched = (one: Control): string | null =>
  "path" in one && one.path[0] === "parts" ? one.path[1]! : null;

export function BlockSettings({ node, holder }: { node: DocNode; holder: DocNode | null }) {
  const kind = nodeKind(node.type)!;
  const block = blockKind(node.type) !== null;
  const isShown = (one: Control) => !("path" in one) || isPartShown(node, one.path, holder);
  const partIn = (one: Control) => ("path" in one ? partOf(node, one.path) : null);
  const [controls, style] = [kind.content.filter(isShown), kind.style.filter(isShown)];
  const content = controls.filter((one) => switched(one) === null && partIn(one) === null);
  // The parts that can be switched off stand together, each before what is in it.
  const parts = controls.flatMap((one) => {
    const part = switched(one);
    return part === null ? [] : [one, ...controls.filter((inner) => partIn(inner) === part)];
  });
  const items = (kind.holds ?? []).map((item) => (
    <ItemsList key={item.type} parent={node} kind={item} />
  ));
  // Items that a part switches on and off stand with the parts.
  const itemsApart = kind.showsItems !== undefined;
  return (
    <>
      {(content.length > 0 || (items.length > 0 && !itemsApart)) && (
        <Section title="Content">
          {content.length > 0 && <Controls node={node} controls={content} />}
          {!itemsApart && items}
        </Section>
      )}
      {parts.length > 0 && (
        <Section title="Parts">
          <Controls node={node} controls={parts} />
          {kind.showsItems?.(node.props) && items}
        </Section>
      )}
      {(block || style.length > 0) && (
        <Section title="Style">
          <Controls node={node} controls={style} style />
          {blockKind(node.type)?.inner && (
            <Origin node={node} path={["inner"]}>
              <PaddingFields
                node={node}
                path={["inner"]}
                value={node.props.inner as never}
                label="Inside it"
              />
            </Origin>
          )}
          {block && <Controls node={node} controls={GROUND} style />}
          <ContrastLine node={node} />
        </Section>
      )}
      {block && (
        <>
          <BoxSettings node={node} />
          <TextHelp node={node} />
          <Shown node={node} />
          <SeenSection node={node} />
          <PlainTextSection node={node} />
        </>
      )}
    </>
  );
}
