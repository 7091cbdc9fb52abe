/** Campaign parameters as this email's links have them: what the settings say, or something else. */
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { LinkParameter, OwnParameters } from "#core/kinds/parameters.ts";
import { LIMITS } from "#core/limits.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { INPUT } from "../ui/field.tsx";
import { useEdits } from "./edit.ts";

export function Parameters({
  campaign,
  seq,
  doc,
  parameters,
}: {
  campaign: string;
  seq: number;
  doc: EmailDocument;
  /** Those of the settings. */
  parameters: readonly LinkParameter[];
}) {
  const own = (doc.root.props as unknown as EmailProps).parameters ?? {};
  const { busy, edit } = useEdits(campaign, seq);
  if (parameters.length === 0) {
    return (
      <p className="mb-3 text-small text-ink-2">
        Addresses have no campaign parameters.{" "}
        <Link className="link" to="/settings#section-links">
          Name some in the settings
        </Link>
      </p>
    );
  }
  const change = (name: string, words: string | null) => {
    const { [name]: _, ...others } = own;
    const next: OwnParameters = words === null ? others : { ...others, [name]: words };
    const value = Object.keys(next).length > 0 ? { value: next } : {};
    const set = { type: "set" as const, node: doc.root.id, path: ["parameters"], ...value };
    void edit([set], "The parameter is changed");
  };
  return (
    <section aria-label="Campaign parameters" className="mb-4 border bg-sheet px-3 py-2.5">
      <h2 className="text-small font-medium text-ink-2">Added to every address</h2>
      <ul className="mt-1.5 grid grid-cols-2 gap-x-6 gap-y-2 max-lg:grid-cols-1">
        {parameters.map((one) => (
          <Parameter
            key={`${one.name} ${own[one.name] ?? ""}`}
            parameter={one}
            own={Object.hasOwn(own, one.name) ? own[one.name]! : null}
            busy={busy}
            onChange={(words) => change(one.name, words)}
          />
        ))}
      </ul>
    </section>
  );
}

function Parameter({
  parameter: { name, words },
  own,
  busy,
  onChange,
}: {
  parameter: LinkParameter;
  /** What this email says; null for what the settings do. */
  own: string | null;
  busy: boolean;
  /** Null: what the settings say; empty: it is left out. */
  onChange: (words: string | null) => void;
}) {
  const [draft, setDraft] = useState(own ?? "");
  const left = own === "";
  const send = (event: FormEvent) => {
    event.preventDefault();
    onChange(draft.trim() || null);
  };
  return (
    <li>
      <form onSubmit={send} className="flex flex-wrap items-center gap-2">
        <code className="text-small">{name}</code>
        <input
          aria-label={`What ${name} says`}
          className={`${INPUT} min-w-0 flex-1`}
          maxLength={LIMITS.parameterWords}
          placeholder={left ? "left out" : words || "the campaign’s name"}
          value={draft}
          onChange={(event) => setDraft(event.currentTarget.value)}
        />
        {draft.trim() !== (own ?? "") && (
          <Button type="submit" disabled={busy}>
            Change
          </Button>
        )}
        <Checkbox
          label="Leave it out"
          className="text-small"
          disabled={busy}
          checked={left}
          onChange={(event) => onChange(event.currentTarget.checked ? "" : null)}
        />
      </form>
    </li>
  );
}
