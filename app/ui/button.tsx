import clsx from "clsx";
import { Slot } from "radix-ui";
import type { ComponentProps } from "react";
import { useFormBusy } from "./form.tsx";

const BASE =
  "inline-flex items-center justify-center gap-1.5 rounded-md border px-3 py-1.5 text-small font-semibold whitespace-nowrap disabled:opacity-50";
const PLAIN = "border-field bg-sheet text-ink hover:bg-bench";
const PRIMARY = "border-plum bg-plum text-on-plum hover:opacity-90";

/** The looks of a button for something else, such as a link. */
export function Buttonlike({
  primary = false,
  className,
  asChild = false,
  ...rest
}: ComponentProps<"button"> & { primary?: boolean; asChild?: boolean }) {
  const Element = asChild ? Slot.Root : "button";
  return <Element className={clsx(BASE, primary ? PRIMARY : PLAIN, className)} {...rest} />;
}

/** A button; one that hands a form in shows while that is on its way. It keeps the focus meanwhile. */
export function Button({
  type = "button",
  className,
  ...rest
}: ComponentProps<"button"> & { primary?: boolean }) {
  const busy = useFormBusy() && type === "submit";
  return (
    <Buttonlike
      type={type}
      aria-busy={busy || undefined}
      className={clsx(busy && "animate-pulse cursor-progress", className)}
      {...rest}
    />
  );
}

/** A button that is only a picture; its label is read aloud and shown on hover. */
export function IconButton({
  label,
  className,
  type = "button",
  ...rest
}: ComponentProps<"button"> & { label: string }) {
  return (
    <button
      type={type}
      aria-label={label}
      title={label}
      className={clsx(
        "inline-flex size-7 items-center justify-center rounded-md text-ink-2 hover:bg-bench hover:text-ink disabled:opacity-40 disabled:hover:bg-transparent [&>svg]:size-4",
        className,
      )}
      {...rest}
    />
  );
}
