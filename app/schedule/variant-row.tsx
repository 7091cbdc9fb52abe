/** One variant of an A/B test: what it says otherwise, or its own content. */
import { X } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Field } from "#core/fields/index.ts";
import type { Variant } from "#core/splits/plan.ts";
import { variantName } from "#core/splits/plan.ts";
import { type Line, lineLiquid, liquidLine } from "#core/text/index.ts";
import { type Reply, wordsOf } from "../ask.ts";
import { LineWords } from "../library/rich-input.tsx";
import { Button, IconButton } from "../ui/button.tsx";
import { useToast } from "../ui/toast.tsx";

const PARTS = [
  ["subject", "Subject"],
  ["preview", "Preview text"],
  ["fromName", "From name"],
] as const;

const lineOf = (template: string): Line | null =>
  template.trim() === "" ? null : (liquidLine(template) as Line);

export default function VariantRow({
  number,
  variant,
  fields,
  content,
  onChange,
  onTakeOut,
  onGive,
}: {
  /** From 1, which is B. */
  number: number;
  variant: Variant;
  fields: readonly Field[];
  /** The subject of its own content; null where it has none. */
  content: string | null;
  onChange: (to: Partial<Variant>) => void;
  onTakeOut: () => void;
  /** Gives it an email of its own; answers with the campaign that holds it. */
  onGive: () => Promise<Reply<{ content: string }>>;
}) {
  const name = variantName(number);
  const say = useToast();
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const give = async () => {
    setBusy(true);
    const reply = await onGive();
    setBusy(false);
    if (reply.kind === "ok") navigate(`/campaigns/${reply.body.content}`);
    else say(wordsOf(reply, "This could not be done."), "wrong");
  };
  return (
    <li className="grid grid-cols-[36px_1fr_auto] items-start border-b py-2.5" data-variant={name}>
      <span className="font-display text-title text-plum">{name}</span>
      {content === null ? (
        <div className="flex flex-col gap-2">
          {PARTS.map(([part, label]) => (
            <div key={part} className="grid grid-cols-[100px_1fr] items-start gap-2">
              <span className="pt-2 text-small text-ink-2">{label}</span>
              <LineWords
                label={`${name}: ${label.toLowerCase()}`}
                value={variant[part] ? lineLiquid(variant[part]) : ""}
                hint="as in A"
                fields={fields}
                onChange={(template) => onChange({ [part]: lineOf(template) })}
              />
            </div>
          ))}
          <div>
            <Button disabled={busy} aria-busy={busy || undefined} onClick={() => void give()}>
              Give {name} an email of its own
            </Button>
          </div>
        </div>
      ) : (
        <div>
          <p className="font-semibold">{content || "An email of its own"}</p>
          <Link className="link text-small" to={`/campaigns/${variant.content}`}>
            Open it in Compose
          </Link>
        </div>
      )}
      <IconButton label={`Take ${name} out`} onClick={onTakeOut}>
        <X />
      </IconButton>
    </li>
  );
}
