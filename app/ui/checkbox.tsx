/** A box to tick, with what it means beside it. */
import clsx from "clsx";
import type { ComponentProps, ReactNode } from "react";

export function Checkbox({
  label,
  className,
  large = false,
  ...input
}: Omit<ComponentProps<"input">, "type"> & {
  /** Left out where `aria-label` says what it is. */
  label?: ReactNode;
  /** For pages that are read on a phone. */
  large?: boolean;
}) {
  const box = (
    <input
      {...input}
      type="checkbox"
      className={clsx("flex-none accent-plum", large && "mt-1 size-4")}
    />
  );
  if (label === undefined) return box;
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the box is in it
    <label className={clsx("flex items-center gap-2", className)}>
      {box}
      {label}
    </label>
  );
}
