import { type PointerEvent, useEffect, useId, useState } from "react";
import { Field, INPUT } from "./field.tsx";
import { sumOf } from "./sum.ts";

/** How far the pointer goes for one step of a number that is dragged, px. */
const DRAG_STEP = 3;

/**
 * A number, kept whole: typed, also as a simple sum; stepped with the arrow keys; dragged by its label. One outside
 * its range is corrected to the nearest that fits, with a word on why; anything else is left as it was typed,
 * with what is wrong under it.
 */
export function NumberField({
  label,
  value,
  min,
  max,
  unit,
  per = 1,
  empty,
  steps,
  onValue,
}: {
  label: string;
  value: number | null;
  min: number;
  max: number;
  unit?: string;
  /** How many of the whole numbers that are kept make one of the unit: 10 for tenths. */
  per?: number;
  /** What stands there without a value; then the field can be emptied. */
  empty?: string;
  /** Values that are offered, and stepped through with Page Up and Page Down; in the unit. */
  steps?: readonly number[];
  onValue: (value: number | null) => void;
}) {
  const offered = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const [corrected, setCorrected] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new value from outside replaces what was typed
  useEffect(() => setDraft(null), [value]);
  const wrong = draft !== null && draft.trim() !== "" && sumOf(draft) === null;
  const take = (typed: string) => {
    const number = Math.round((sumOf(typed) ?? Number.NaN) * per);
    const fitting = Math.min(max, Math.max(min, number));
    if (number > max) setCorrected(`At most ${max / per}, so ${max / per} it is.`);
    else if (number < min) setCorrected(`At least ${min / per}, so ${min / per} it is.`);
    if (fitting !== value) onValue(fitting);
    setDraft(null);
  };
  const show = (next: number | null) => setDraft(next === null ? null : String(next / per));
  const drag = useDrag(value ?? min, min, max, show, onValue);
  return (
    <div {...drag}>
      <Field
        className="[&>label]:cursor-ew-resize [&>label]:touch-none"
        label={unit ? `${label}, ${unit}` : label}
        errors={wrong ? [`A ${per > 1 ? "" : "whole "}number, or a sum such as 12 + 4.`] : null}
        hint={corrected ? <span role="status">{corrected}</span> : undefined}
      >
        {(ids) => (
          <input
            {...ids}
            inputMode={per > 1 ? "decimal" : "numeric"}
            value={draft ?? (value === null ? "" : value / per)}
            placeholder={value === null ? empty : undefined}
            list={steps && offered}
            className={INPUT}
            onChange={(event) => {
              setDraft(event.target.value);
              setCorrected(null);
            }}
            onKeyDown={(event) => {
              const page = stepBeside(steps, (value ?? min) / per, event.key);
              if (page !== null) {
                event.preventDefault();
                onValue(Math.min(max, Math.max(min, Math.round(page * per))));
              }
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
      {steps && (
        <datalist id={offered}>
          {steps.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </div>
  );
}

/** The step above or below a value, for the key that asks for it; null where there is none. */
function stepBeside(steps: readonly number[] = [], value: number, key: string): number | null {
  if (key === "PageUp") return steps.find((one) => one > value) ?? null;
  if (key === "PageDown") return steps.findLast((one) => one < value) ?? null;
  return null;
}

/** Dragging a field by its label: what it comes to is shown at once and taken when the pointer is let go. */
function useDrag(
  value: number,
  min: number,
  max: number,
  show: (next: number | null) => void,
  onValue: (value: number) => void,
) {
  const [from, setFrom] = useState<number | null>(null);
  const at = (x: number) =>
    Math.min(max, Math.max(min, value + Math.round((x - from!) / DRAG_STEP)));
  return {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (!(event.target as Element).closest("label")) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      setFrom(event.clientX);
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      if (from !== null) show(at(event.clientX));
    },
    onPointerUp: (event: PointerEvent<HTMLElement>) => {
      if (from === null) return;
      const next = at(event.clientX);
      setFrom(null);
      if (next !== value) onValue(next);
      else show(null);
    },
    onPointerCancel: () => {
      setFrom(null);
      show(null);
    },
  };
}
