/** A menu at a button. */
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export interface MenuItem {
  readonly label: string;
  /** Shown behind the label: a key, or a number. */
  readonly about?: string;
  readonly disabled?: boolean;
  onChoose(): void;
}

/** The items are made when it is opened: what it takes to know them is not done before. */
export function Menu({ trigger, items }: { trigger: ReactNode; items: () => readonly MenuItem[] }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 min-w-52 rounded-md border border-line-strong bg-paper p-1"
        >
          <Items of={items} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Items({ of: items }: { of: () => readonly MenuItem[] }) {
  return items().map(({ label, about, disabled, onChoose }) => (
    <DropdownMenu.Item
      key={label}
      disabled={disabled}
      onSelect={onChoose}
      className="flex cursor-pointer items-center justify-between gap-4 rounded px-2.5 py-1.5 text-small outline-none data-[disabled]:cursor-default data-[disabled]:text-ink-3 data-[highlighted]:bg-plum-soft data-[highlighted]:text-plum"
    >
      {label}
      {about && <span className="text-fine text-ink-3">{about}</span>}
    </DropdownMenu.Item>
  ));
}
