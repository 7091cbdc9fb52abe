/** Parts that the settings of blocks and bands share. */
import { type ReactNode, useState } from "react";
import type { DocNode } from "#core/document/index.ts";
import type { BlockProps, Dir, Padding } from "#core/kinds/common.ts";
import { LIMITS } from "#core/limits.ts";
import { spacingOf, type Theme } from "#core/theme/theme.ts";
import { NumberField } from "../../ui/number-field.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";

export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="flex flex-col gap-2.5">
      <h3 className="text-lead">{title}</h3>
      {children}
    </section>
  );
}

const SIDES = ["top", "right", "bottom", "left"] as const;
type Side = (typeof SIDES)[number];

/** In right-to-left text the sides change places, and so do their names. */
const nameOfSide = (side: Side, dir: Dir): string => {
  const mirrored = { left: "right", right: "left" } as const;
  const shown = dir === "rtl" && (side === "left" || side === "right") ? mirrored[side] : side;
  return shown[0]!.toUpperCase() + shown.slice(1);
};

/** Spacing on four sides: one number for all, or each by itself. */
export function PaddingFields({
  node,
  path,
  value,
  label,
}: {
  node: DocNode;
  path: string[];
  value: Padding;
  label: string;
}) {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const steps = spacingOf(doc.root.props.theme as unknown as Theme);
  const even = SIDES.every((side) => value[side] === value.top);
  const [apart, setApart] = useState(!even);
  const box = node.props.box as { dir?: Dir | null } | undefined;
  const dir = box?.dir ?? (doc.root.props.dir as Dir);
  const set = (change: Partial<Padding>) =>
    edit({ type: "set", node: node.id, path, value: { ...value, ...change } });
  return (
    <div>
      <div className="mb-1 flex items-center justify-between text-small text-ink-2">
        <span>{label}, px</span>
        <button
          type="button"
          aria-pressed={apart}
          className="link text-small"
          onClick={() => {
            if (apart && !even) {
              set({ right: value.top, bottom: value.top, left: value.top });
            }
            setApart(!apart);
          }}
        >
          {apart ? "One for all sides" : "Each side"}
        </button>
      </div>
      {apart ? (
        <div className="grid grid-cols-4 gap-1.5">
          {SIDES.map((side) => (
            <NumberField
              key={side}
              label={nameOfSide(side, dir)}
              value={value[side]}
              min={0}
              max={LIMITS.padding}
              steps={steps}
              onValue={(n) => set({ [side]: n ?? 0 })}
            />
          ))}
        </div>
      ) : (
        <NumberField
          label="All sides"
          value={value.top}
          min={0}
          max={LIMITS.padding}
          steps={steps}
          onValue={(n) => set({ top: n ?? 0, right: n ?? 0, bottom: n ?? 0, left: n ?? 0 })}
        />
      )}
    </div>
  );
}

const SHOWS = [
  { value: "both", label: "Both" },
  { value: "wide", label: "Only wide" },
  { value: "narrow", label: "Only narrow" },
] as const;

export function Shown({ node }: { node: DocNode }) {
  const { edit } = useCommands();
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
