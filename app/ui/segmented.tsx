import { ToggleGroup } from "radix-ui";
import type { ReactNode } from "react";

/** One of a few, side by side. */
export function Segmented<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V;
  options: readonly { value: V; label: string; icon?: ReactNode }[];
  onChange: (value: V) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next && onChange(next as V)}
      className="inline-flex w-fit overflow-hidden rounded-md border border-field"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          title={option.label}
          aria-label={option.label}
          className="flex items-center gap-1.5 border-l border-line-strong bg-sheet px-2.5 py-1 text-small font-medium text-ink-2 first:border-l-0 hover:bg-bench focus-visible:-outline-offset-2 data-[state=on]:bg-plum-soft data-[state=on]:font-semibold data-[state=on]:text-plum [&>svg]:size-3.5"
        >
          {option.icon}
          {option.icon ? null : option.label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
