/** How blocks come in this email: spacing and type, for new ones or for all. */
import { useMemo, useState } from "react";
import { propsFit } from "#core/blocks/index.ts";
import { ALL, startsWith } from "#core/blocks/style.ts";
import {
  type EmailDocument,
  isBlock,
  type SimpleEdit,
  valueAt,
  walk,
  withValue,
} from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Theme } from "#core/theme/theme.ts";
import { Button } from "../../ui/button.tsx";
import { NumberField } from "../../ui/number-field.tsx";
import { useCommands } from "../doing/commands.ts";
import { group } from "../doing/doing.ts";
import { useMessages } from "../messages/messages.ts";
import { useReading } from "../reading/reading.ts";
import { Section } from "./parts.tsx";

const FIELDS = [
  { label: "Above", path: "box.padding.top", min: 0, max: LIMITS.padding, unit: "px" },
  { label: "Below", path: "box.padding.bottom", min: 0, max: LIMITS.padding, unit: "px" },
  { label: "Left", path: "box.padding.left", min: 0, max: LIMITS.padding, unit: "px" },
  { label: "Right", path: "box.padding.right", min: 0, max: LIMITS.padding, unit: "px" },
  { label: "Line height", path: "type.lineHeight", min: 100, max: 220, unit: "%" },
  { label: "Letter spacing", path: "type.spacing", min: -20, max: 100, unit: "px", per: 10 },
] as const;

type Values = Readonly<Record<string, number>>;

/** The edits that give values to every block that has a place for them, block by block. */
function everywhere(doc: EmailDocument, values: Values): SimpleEdit[][] {
  return [...walk(doc.root)]
    .filter((node) => isBlock(node.type))
    .map((node) =>
      Object.entries(values).flatMap(([key, value]): SimpleEdit[] => {
        const path = key.split(".");
        const now = valueAt(node.props, path);
        if (now === undefined || now === value) return [];
        const fits = propsFit(node.type, withValue(node.props, path, value));
        return fits ? [{ type: "set", node: node.id, path, value }] : [];
      }),
    )
    .filter((edits) => edits.length > 0);
}

export function StartsSection() {
  const { doc } = useReading("doc");
  const { edit } = useCommands();
  const { say } = useMessages();
  const theme = doc.root.props.theme as unknown as Theme;
  const stored = (theme.starts[ALL] ?? {}) as Values;
  const [draft, setDraft] = useState<Record<string, number | null>>({});
  const given = (path: string) => (path in draft ? draft[path]! : (stored[path] ?? null));
  const values: Values = Object.fromEntries(
    FIELDS.flatMap(({ path }) => {
      const value = given(path);
      return value === null ? [] : [[path, value]];
    }),
  );
  const key = JSON.stringify(values);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the values are told apart by their spelling
  const touched = useMemo(() => everywhere(doc, values), [doc, key]);
  const take = (all: boolean) => {
    const edits = [startsWith(doc, ALL, values), ...(all ? touched.flat() : [])];
    if (!edit(group(edits))) return;
    setDraft({});
    say(all ? `Given to ${touched.length} blocks and to new ones.` : "New blocks come so.");
  };
  const nothing = Object.keys(values).length === 0;
  return (
    <Section title="How blocks come">
      <p className="text-small text-ink-3">What is empty is as each kind of block has it.</p>
      <div className="grid grid-cols-2 gap-2.5">
        {FIELDS.map(({ label, path, min, max, unit }) => (
          <NumberField
            key={path}
            label={label}
            unit={unit}
            value={given(path)}
            min={min}
            max={max}
            empty="own"
            onValue={(value) => setDraft({ ...draft, [path]: value })}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button disabled={nothing} onClick={() => take(false)}>
          For new blocks
        </Button>
        <Button disabled={nothing || touched.length === 0} onClick={() => take(true)}>
          For all {touched.length > 0 ? touched.length : ""} blocks too
        </Button>
      </div>
    </Section>
  );
}
