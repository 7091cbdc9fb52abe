/** Settings of a block: content, style, spacing, on which widths it shows. */
import { AlignCenter, AlignLeft, AlignRight } from "lucide-react";
import type { ReactNode } from "react";
import { blockKind } from "#core/blocks/index.ts";
import type { DocNode } from "#core/document/index.ts";
import type { Align, BlockProps } from "#core/kinds/common.ts";
import { Segmented } from "../../ui/segmented.tsx";
import { useComposer } from "../context.ts";
import { Controls, ControlView } from "./controls/index.tsx";
import { PaddingFields, Section, Shown } from "./parts.tsx";

const ALIGNS: { value: Align; label: string; icon: ReactNode }[] = [
  { value: "start", label: "Left", icon: <AlignLeft /> },
  { value: "center", label: "Centre", icon: <AlignCenter /> },
  { value: "end", label: "Right", icon: <AlignRight /> },
];
export function BlockSettings({ node }: { node: DocNode }) {
  const { edit } = useComposer();
  const kind = blockKind(node.type)!;
  const { box } = node.props as unknown as BlockProps;
  const setAlign = (path: string, value: Align) =>
    edit({ type: "set", node: node.id, path: ["box", path], value });
  return (
    <>
      {kind.content.length > 0 && (
        <Section title="Content">
          <Controls node={node} controls={kind.content} />
        </Section>
      )}
      <Section title="Style">
        <Controls node={node} controls={kind.style} />
        <ControlView
          node={node}
          control={{
            control: "colour",
            path: ["box", "background"],
            label: "Ground behind",
            none: "None",
          }}
        />
      </Section>
      <Section title="Spacing">
        <PaddingFields node={node} path={["box", "padding"]} value={box.padding} />
        <div className="flex items-center justify-between">
          <span className="text-[11.5px] text-ink-2">Alignment</span>
          <Segmented
            label="Alignment"
            value={box.align}
            options={ALIGNS}
            onChange={(value) => setAlign("align", value)}
          />
        </div>
        <div className="flex items-center justify-between">
          <span className="text-[11.5px] text-ink-2">On narrow</span>
          <Segmented
            label="Alignment on narrow"
            value={box.alignNarrow ?? box.align}
            options={ALIGNS}
            onChange={(value) => setAlign("alignNarrow", value)}
          />
        </div>
      </Section>
      <Shown node={node} />
    </>
  );
}
