import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { IconButton } from "./button.tsx";

/** A dialog over the page, opened by `trigger` or from outside by `open`. */
export function Dialog({
  title,
  trigger,
  open,
  onOpenChange,
  wide = false,
  keepFocus = false,
  children,
}: {
  title: string;
  trigger?: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  wide?: boolean;
  /** The focus stays where it was put when this closes. */
  keepFocus?: boolean;
  children: ReactNode;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Radix.Trigger asChild>{trigger}</Radix.Trigger>}
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[#241f1b66]" />
        <Radix.Content
          aria-describedby={undefined}
          data-modal=""
          onCloseAutoFocus={(event) => keepFocus && event.preventDefault()}
          className={`fixed top-[12vh] left-1/2 z-50 max-h-[76vh] -translate-x-1/2 ${wide ? "w-[min(900px,92vw)]" : "w-[min(480px,92vw)]"} overflow-auto rounded-md border border-line-strong bg-paper p-5`}
        >
          <div className="mb-3 flex items-center justify-between">
            <Radix.Title className="text-head">{title}</Radix.Title>
            <Radix.Close asChild>
              <IconButton label="Close">
                <X />
              </IconButton>
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
