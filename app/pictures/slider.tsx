/** A number between two ends: drawn along a line, or written. */
import { Slider as Radix } from "radix-ui";
import { useId } from "react";
import { NumberInput } from "../ui/number-input.tsx";

export function Slider({
  label,
  value,
  min,
  max,
  onValue,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  onValue: (value: number) => void;
}) {
  const id = useId();
  const within = (next: number) => Math.max(min, Math.min(max, Math.round(next)));
  return (
    <div className="flex items-center gap-2">
      <label htmlFor={id} className="w-22 flex-none text-small text-ink-2">
        {label}
      </label>
      <Radix.Root
        value={[value]}
        min={min}
        max={max}
        onValueChange={([next]) => onValue(next!)}
        className="relative flex h-5 flex-1 touch-none items-center select-none"
      >
        <Radix.Track className="relative h-1 grow rounded-full bg-line-strong">
          <Radix.Range className="absolute h-full rounded-full bg-plum" />
        </Radix.Track>
        <Radix.Thumb
          aria-label={label}
          className="block size-4 rounded-full border border-plum bg-sheet"
        />
      </Radix.Root>
      <NumberInput
        id={id}
        value={value}
        min={min}
        max={max}
        onValue={(next) => next !== null && onValue(within(next))}
        className="w-14"
      />
    </div>
  );
}
