import clsx from "clsx";
import { Slot } from "radix-ui";
import type { ComponentProps } from "react";
import { useFormBusy } from "./form.tsx";

/** The looks of a button for something else, such as a link. */
export function Buttonlike({
  primary = false,
  className,
  asChild = false,
  ...rest
}: ComponentProps<"button"> & { primary?: boolean; asChild?: boolean }) {
  const Element = asChild ? Slot.Root : "button";
  return (
    <Element
      className={clsx("button", primary ? "button-primary" : "button-plain", className)}
      {...rest}
    />
  );
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
      className={clsx("icon-button", className)}
      {...rest}
    />
  );
}
