/** A number within a line of other controls: with a point or a comma; nothing where it is empty or none. */
import clsx from "clsx";
import { useState } from "react";
import { INPUT } from "./field.tsx";

const numberOf = (text: string): number | null => {
  const number = Number(text.trim().replace(",", "."));
  return text.trim() === "" || !Number.isFinite(number) ? null : number;
};

export function NumberInput({
  label,
  value,
  min,
  max,
  invalid = false,
  onValue,
  className = "w-24",
  ...ids
}: {
  label?: string;
  value: number | null | undefined;
  min?: number;
  max?: number;
  invalid?: boolean;
  onValue: (value: number | null) => void;
  className?: string;
  id?: string;
  "aria-describedby"?: string;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = value === null || value === undefined || Number.isNaN(value) ? "" : String(value);
  const wrong = draft !== null && numberOf(draft) === null;
  // What is typed stands as long as it says what is known, or nothing that could be.
  const text = wrong || (draft !== null && numberOf(draft) === numberOf(shown)) ? draft : shown;
  const within = (n: number) => (min === undefined || n >= min) && (max === undefined || n <= max);
  return (
    <input
      {...ids}
      aria-label={label}
      inputMode="decimal"
      autoComplete="off"
      value={text}
      aria-invalid={invalid || (wrong && draft.trim() !== "") || undefined}
      onChange={(event) => {
        setDraft(event.target.value);
        onValue(numberOf(event.target.value));
      }}
      onKeyDown={(event) => {
        const by = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
        if (!by) return;
        event.preventDefault();
        const next = (numberOf(text) ?? 0) + by;
        if (!within(next)) return;
        setDraft(null);
        onValue(next);
      }}
      onBlur={() => {
        const number = draft === null ? null : numberOf(draft);
        if (number !== null && !within(number)) {
          onValue(Math.max(min ?? number, Math.min(max ?? number, number)));
        }
        setDraft(null);
      }}
      className={clsx(INPUT.replace("w-full", ""), className)}
    />
  );
}
