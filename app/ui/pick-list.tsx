import { Command } from "cmdk";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { useAnswer } from "./answer.ts";
import { matching } from "./matches.ts";

export interface PickItem {
  readonly key: string;
  /** What it is called, and searched by first. */
  readonly label: string;
  /** Other words it is found by. */
  readonly other?: string;
  /** What stands there instead of the label. */
  readonly shown?: ReactNode;
  readonly onPick: () => void;
}
export interface PickGroup {
  /** Empty for a list without groups. */
  readonly name: string;
  readonly items: readonly PickItem[];
}

/** How many are drawn at most; more are found by typing. */
const DRAWN = 100;

interface Props {
  label: string;
  hint: string;
  /** What stands there where nothing is found. */
  empty: string;
  /** All there are, searched here; or: */
  groups?: readonly PickGroup[];
  /** Those that fit what is typed, found by the server; null where there was no answer. */
  find?: (words: string) => Promise<readonly PickItem[] | null>;
  className?: string;
}

/** A list in groups that is searched as one types, the likeliest first; arrows and Enter pick. */
export function PickList({ label, hint, empty, groups = [], find, className = "w-72" }: Props) {
  const [words, setWords] = useState("");
  const [marked, setMarked] = useState("");
  const answer = useAnswer(words, find ?? null);
  const shown = find ? [{ name: "", items: answer.found ?? [] }] : found(groups, words);
  const keyOf = (group: PickGroup, item: PickItem) => `${group.name} ${item.key}`;
  const keys = shown.flatMap((group) => group.items.slice(0, DRAWN).map((it) => keyOf(group, it)));
  // Enter in the middle of a search means the first of what will be found.
  const early = useRef(false);
  useEffect(() => {
    if (answer.asking || !early.current) return;
    early.current = false;
    answer.found?.[0]?.onPick();
  });
  return (
    <Command
      label={label}
      className={className}
      shouldFilter={false}
      loop
      value={keys.includes(marked) ? marked : (keys[0] ?? "")}
      onValueChange={setMarked}
      onKeyDown={(event) => {
        if (event.key !== "Enter" || !answer.asking) return;
        event.preventDefault();
        early.current = true;
      }}
    >
      <Command.Input
        autoFocus
        value={words}
        onValueChange={(next) => {
          setWords(next);
          setMarked("");
        }}
        placeholder={hint}
        maxLength={LIMITS.searchLength}
        className="w-full border-b bg-transparent px-3 py-2 outline-none"
      />
      <Command.List className="max-h-72 overflow-auto p-1">
        {keys.length === 0 && !answer.asking && (
          <p role="status" className="px-2 py-3 text-ink-3">
            {find && answer.found === null
              ? "There is no connection."
              : words.trim() === ""
                ? "There is nothing to choose from yet."
                : empty}
          </p>
        )}
        {shown.map((group) => (
          <Command.Group
            key={group.name}
            heading={group.name || undefined}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:font-display [&_[cmdk-group-heading]]:text-body [&_[cmdk-group-heading]]:text-ink-3 [&_[cmdk-group-heading]]:italic"
          >
            {group.items.slice(0, DRAWN).map((one) => (
              <Command.Item
                key={one.key}
                value={keyOf(group, one)}
                onSelect={one.onPick}
                className="flex cursor-pointer items-baseline gap-2 rounded-md px-2 py-1.5 data-[selected=true]:bg-plum-soft data-[selected=true]:text-plum"
              >
                {one.shown ?? one.label}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
        {shown.some(({ items }) => items.length > DRAWN) && (
          <p className="px-2 py-1.5 text-small text-ink-3">Type to find others.</p>
        )}
      </Command.List>
    </Command>
  );
}

/** The groups with what is found in them, that with the likeliest first. */
function found(groups: readonly PickGroup[], words: string): readonly PickGroup[] {
  if (words.trim() === "") return groups;
  const all = groups.flatMap((group) => group.items.map((item) => ({ group, item })));
  const hits = matching(all, words, ({ item }) => item);
  return [...new Set(hits.map(({ group }) => group))].map((group) => ({
    name: group.name,
    items: hits.filter((hit) => hit.group === group).map(({ item }) => item),
  }));
}
