import { Popover as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** A small window at what opened it. `anchor` is used instead of a trigger where a click does more. */
export function Popover({
  label,
  open,
  onOpenChange,
  trigger,
  anchor,
  align = "start",
  side = "bottom",
  keepFocus = false,
  focusOn,
  children,
}: {
  /** What it is called by screen readers. */
  label: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  trigger?: ReactNode;
  anchor?: ReactNode;
  align?: "start" | "end";
  side?: "top" | "bottom";
  /** The focus stays where it was put when this closes. */
  keepFocus?: boolean;
  /** What takes the focus when it opens, by its selector; left out, the first that can. */
  focusOn?: string;
  children: ReactNode;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Radix.Trigger asChild>{trigger}</Radix.Trigger>}
      {anchor && <Radix.Anchor asChild>{anchor}</Radix.Anchor>}
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align={align}
          side={side}
          sideOffset={6}
          // What is inside may be dragged out of it: then it is out of the way, but there, as a finger needs what it pressed.
          className="z-50 rounded-md border border-line-strong bg-paper has-data-away:pointer-events-none has-data-away:opacity-0"
          onOpenAutoFocus={(event) => {
            const wanted =
              focusOn && (event.currentTarget as HTMLElement).querySelector<HTMLElement>(focusOn);
            if (!wanted) return;
            event.preventDefault();
            wanted.focus();
          }}
          onCloseAutoFocus={(event) => keepFocus && event.preventDefault()}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
