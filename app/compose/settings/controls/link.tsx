import { useState } from "react";
import type { Json } from "#core/json.ts";
import { type Link, line, linkSchema } from "#core/text/index.ts";
import { Field, INPUT } from "../../../ui/field.tsx";
import { LineInput } from "../../text/line-input.tsx";
import { type Props, useValue } from "./control.ts";

const LINK_KINDS = [
  ["none", "Nowhere"],
  ["web", "A web address"],
  ["mail", "An email address"],
  ["phone", "A phone number"],
  ["webVersion", "The web version"],
  ["unsubscribe", "Unsubscribe"],
] as const;

const startOf = (kind: string): Link => {
  if (kind === "web") return { kind, address: line() };
  if (kind === "mail") return { kind, address: "" };
  if (kind === "phone") return { kind, number: "" };
  return { kind } as Link;
};

export function LinkControl({ node, control }: Props<"link">) {
  const [link, set] = useValue<Link>(node, control.path);
  const [error, setError] = useState<string | null>(null);
  const save = (next: Link) => {
    const result = linkSchema.safeParse(next);
    setError(result.success ? null : (result.error.issues[0]?.message ?? "This does not fit."));
    if (result.success) set(result.data as unknown as Json);
  };
  return (
    <div className="flex flex-col gap-2">
      <Field label={control.label}>
        {(ids) => (
          <select
            {...ids}
            value={link.kind}
            className={INPUT}
            onChange={(event) => save(startOf(event.target.value))}
          >
            {LINK_KINDS.map(([kind, label]) => (
              <option key={kind} value={kind}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      {link.kind === "web" && (
        <LineInput
          label="Address"
          text={link.address}
          error={error}
          hint="Begins with https://"
          onText={(address) => {
            if (JSON.stringify(address) !== JSON.stringify(link.address))
              save({ kind: "web", address });
            else setError(null);
          }}
        />
      )}
      {(link.kind === "mail" || link.kind === "phone") && (
        <Field label={link.kind === "mail" ? "Address" : "Number"} errors={error ? [error] : null}>
          {(ids) => (
            <input
              {...ids}
              key={link.kind}
              defaultValue={link.kind === "mail" ? link.address : link.number}
              className={INPUT}
              onBlur={(event) => {
                const value = event.target.value.trim();
                save(
                  link.kind === "mail" ? { ...link, address: value } : { ...link, number: value },
                );
              }}
            />
          )}
        </Field>
      )}
    </div>
  );
}
