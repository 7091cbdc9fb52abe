/** Parts that the settings of blocks and bands share. */
import type { ReactNode } from "react";
import type { DocNode } from "#core/document/index.ts";
import type { BlockProps, Padding } from "#core/kinds/common.ts";
import { Segmented } from "../../ui/segmented.tsx";
import { useComposer } from "../context.ts";
import { NumberInput } from "./controls/number.tsx";

export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="flex flex-col gap-2.5">
      <h3 className="text-[15px]">{title}</h3>
      {children}
    </section>
  );
}

const SIDES = ["top", "right", "bottom", "left"] as const;

export function PaddingFields({
  node,
  path,
  value,
}: {
  node: DocNode;
  path: string[];
  value: Padding;
}) {
  const { edit } = useComposer();
  return (
    <div className="grid grid-cols-4 gap-1.5">
      {SIDES.map((side) => (
        <NumberInput
          key={side}
          label={side[0]!.toUpperCase() + side.slice(1)}
          value={value[side]}
          min={0}
          max={120}
          onValue={(n) => edit({ type: "set", node: node.id, path: [...path, side], value: n })}
        />
      ))}
    </div>
  );
}

const SHOWS = [
  { value: "both", label: "Both" },
  { value: "wide", label: "Only wide" },
  { value: "narrow", label: "Only narrow" },
] as const;

export function Shown({ node }: { node: DocNode }) {
  const { edit } = useComposer();
  return (
    <Section title="Shown on">
      <Segmented
        label="Shown on"
        value={node.props.show as BlockProps["show"]}
        options={SHOWS}
        onChange={(value) => edit({ type: "set", node: node.id, path: ["show"], value })}
      />
    </Section>
  );
}
