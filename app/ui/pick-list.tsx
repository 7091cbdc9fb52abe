import { Command } from "cmdk";
import type { ReactNode } from "react";

export interface PickGroup {
  readonly name: string;
  readonly items: readonly {
    readonly key: string;
    /** What is searched. */
    readonly words: string;
    readonly shown: ReactNode;
    onPick(): void;
  }[];
}

/** A list in groups that is searched as one types; arrows and Enter pick. */
export function PickList({
  label,
  hint,
  empty,
  groups,
  className = "w-72",
}: {
  label: string;
  hint: string;
  /** What stands there where nothing is found. */
  empty: string;
  groups: readonly PickGroup[];
  className?: string;
}) {
  return (
    <Command label={label} className={className}>
      <Command.Input
        autoFocus
        placeholder={hint}
        className="w-full border-b bg-transparent px-3 py-2 outline-none"
      />
      <Command.List className="max-h-72 overflow-auto p-1">
        <Command.Empty className="px-2 py-3 text-ink-3">{empty}</Command.Empty>
        {groups.map(({ name, items }) => (
          <Command.Group
            key={name}
            heading={name}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:font-display [&_[cmdk-group-heading]]:text-[13px] [&_[cmdk-group-heading]]:text-ink-3 [&_[cmdk-group-heading]]:italic"
          >
            {items.map(({ key, words, shown, onPick }) => (
              <Command.Item
                key={key}
                value={words}
                onSelect={onPick}
                className="flex cursor-pointer items-baseline gap-2 rounded-md px-2 py-1.5 data-[selected=true]:bg-plum-soft"
              >
                {shown}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}
