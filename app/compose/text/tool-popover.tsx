/** A tool of the bar that opens a small window at itself, while the text keeps its selection. */
import type { ReactNode } from "react";
import { Popover } from "../../ui/popover.tsx";
import { Tool } from "./tool.tsx";

export function ToolPopover({
  label,
  on,
  icon,
  open,
  onOpenChange,
  focusOn,
  children,
}: {
  label: string;
  on: boolean;
  icon: ReactNode;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  focusOn?: string;
  children: ReactNode;
}) {
  return (
    <Popover
      label={label}
      open={open}
      onOpenChange={onOpenChange}
      keepFocus
      focusOn={focusOn}
      anchor={
        <span>
          <Tool label={label} on={on} onClick={() => onOpenChange(!open)}>
            {icon}
          </Tool>
        </span>
      }
    >
      {children}
    </Popover>
  );
}
