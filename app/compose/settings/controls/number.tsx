import { useEffect, useState } from "react";
import { Field, INPUT } from "../../../ui/field.tsx";
import { type Props, useValue } from "./control.ts";

/**
 * A whole number. One outside its range is corrected to the nearest that fits, with a word on why; nothing
 * else than a number is left as it was typed, with what is wrong under it.
 */
export function NumberInput({
  label,
  value,
  min,
  max,
  unit,
  empty,
  onValue,
}: {
  label: string;
  value: number | null;
  min: number;
  max: number;
  unit?: string;
  /** What stands there without a value; then the field can be emptied. */
  empty?: string;
  onValue: (value: number | null) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [corrected, setCorrected] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new value from outside replaces what was typed
  useEffect(() => setDraft(null), [value]);
  const wrong = draft !== null && draft.trim() !== "" && !/^\s*-?\d+([.,]\d+)?\s*$/.test(draft);
  const take = (typed: string) => {
    const number = Math.round(Number(typed.replace(",", ".")));
    const fitting = Math.min(max, Math.max(min, number));
    if (number > max) setCorrected(`At most ${max}, so ${max} it is.`);
    else if (number < min) setCorrected(`At least ${min}, so ${min} it is.`);
    if (fitting !== value) onValue(fitting);
    setDraft(null);
  };
  return (
    <Field
      label={unit ? `${label}, ${unit}` : label}
      errors={wrong ? ["A whole number."] : null}
      hint={corrected ? <span role="status">{corrected}</span> : undefined}
    >
      {(ids) => (
        <input
          {...ids}
          inputMode="numeric"
          value={draft ?? value ?? ""}
          placeholder={value === null ? empty : undefined}
          className={INPUT}
          onChange={(event) => {
            setDraft(event.target.value);
            setCorrected(null);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter" && draft !== null && !wrong) take(draft);
            const by = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
            if (!by) return;
            event.preventDefault();
            setCorrected(null);
            const next = (value ?? min) + by * (event.shiftKey ? 10 : 1);
            onValue(Math.min(max, Math.max(min, next)));
          }}
          onBlur={() => {
            if (draft === null || wrong) return;
            if (draft.trim() !== "") take(draft);
            else {
              if (empty !== undefined && value !== null) onValue(null);
              setDraft(null);
            }
          }}
        />
      )}
    </Field>
  );
}

export function NumberControl({ node, control }: Props<"number">) {
  const [value, set] = useValue<number | null>(node, control.path);
  const { label, min, max, unit } = control;
  return <NumberInput {...{ label, min, max, unit, value }} onValue={set} />;
}
