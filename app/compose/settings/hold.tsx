/** What others may change of a band or block; for those who may say so, and for those who are held a word on it. */
import { Lock } from "lucide-react";
import { holdOf } from "#core/blocks/holds.ts";
import type { DocNode } from "#core/document/index.ts";
import { HOLDS, type Hold } from "#core/kinds/hold.ts";
import { Segmented } from "../../ui/segmented.tsx";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { Section } from "./parts.tsx";

const OPTIONS = (Object.entries(HOLDS) as [Hold, string][]).map(([value, label]) => ({
  value,
  label,
}));
const TOLD: Record<Exclude<Hold, "free">, string> = {
  text: "Its template lets you change its text; all else stays as it is.",
  fixed: "Its template holds it as it is.",
};

/** For those whom the template holds: what they may change here. */
export function HeldNote({ node }: { node: DocNode }) {
  const { doc, holds } = useReading("doc", "holds");
  const hold = holds ? holdOf(doc, node.id) : "free";
  if (hold === "free") return null;
  return (
    <p className="flex items-start gap-2 rounded-md bg-saffron-soft px-2.5 py-2 text-small text-saffron-ink">
      <Lock className="mt-0.5 size-3.5 flex-none" aria-hidden /> {TOLD[hold]}
    </p>
  );
}

/** For those who may change templates: what others may. */
export function HoldSection({ node }: { node: DocNode }) {
  const { doc, holds } = useReading("doc", "holds");
  const { edit } = useCommands();
  if (holds) return null;
  return (
    <Section title="What others may change">
      <Segmented
        label="What others may change"
        value={holdOf(doc, node.id)}
        options={OPTIONS}
        onChange={(value) => edit({ type: "set", node: node.id, path: ["hold"], value })}
      />
    </Section>
  );
}
