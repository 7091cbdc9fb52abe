import { useEffect, useState } from "react";
import { Field, INPUT } from "../../../ui/field.tsx";
import { type Props, useValue } from "./control.ts";

/** A whole number that is saved when it is right; what is wrong with it stands under it. */
export function NumberInput({
  label,
  value,
  min,
  max,
  unit,
  onValue,
}: {
  label: string;
  value: number | null;
  min: number;
  max: number;
  unit?: string;
  onValue: (value: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new value from outside replaces what was typed
  useEffect(() => setDraft(null), [value]);
  const number = Number(draft);
  const problem =
    draft === null || draft === ""
      ? null
      : !Number.isInteger(number)
        ? "A whole number."
        : number < min
          ? `At least ${min}.`
          : number > max
            ? `At most ${max}.`
            : null;
  return (
    <Field label={unit ? `${label}, ${unit}` : label} errors={problem ? [problem] : null}>
      {(ids) => (
        <input
          {...ids}
          inputMode="numeric"
          value={draft ?? value ?? ""}
          placeholder={value === null ? "theme" : undefined}
          className={INPUT}
          onChange={(event) => setDraft(event.target.value)}
          onKeyDown={(event) => {
            const by = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
            if (!by) return;
            event.preventDefault();
            const next = (value ?? min) + by * (event.shiftKey ? 10 : 1);
            onValue(Math.min(max, Math.max(min, next)));
          }}
          onBlur={() => {
            if (draft !== null && draft !== "" && !problem && number !== value) onValue(number);
            if (!problem) setDraft(null);
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
