/** Emoji by search, with the standard names of Unicode CLDR; the data is loaded when it is first asked for. */
import { Command } from "cmdk";
import { Smile } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import type { TextEditor } from "./editor.ts";
import { ToolPopover } from "./tool-popover.tsx";

interface Emoji {
  readonly unicode: string;
  readonly label: string;
  readonly tags?: readonly string[];
  readonly group?: number;
}
/** How many are shown at once. */
const SHOWN = 64;

let loaded: Promise<readonly Emoji[]> | null = null;
const load = (): Promise<readonly Emoji[]> => {
  // Single letters of flags and parts of others have no group and mean nothing alone.
  loaded ??= import("emojibase-data/en/compact.json").then((module) =>
    (module.default as readonly Emoji[]).filter(
      (one) => one.group !== undefined && one.group !== 2,
    ),
  );
  return loaded;
};

export function EmojiTool({
  editor,
  onOpen,
}: {
  editor: TextEditor;
  onOpen: (open: boolean) => void;
}) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const [all, setAll] = useState<readonly Emoji[]>([]);
  useEffect(() => {
    if (open) void load().then(setAll);
  }, [open]);
  const found = useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const fits = ({ label, tags = [] }: Emoji) =>
      words.every((word) => label.includes(word) || tags.some((tag) => tag.startsWith(word)));
    return all.filter(fits).slice(0, SHOWN);
  }, [all, search]);
  const change = (next: boolean) => {
    setSearch("");
    setOpen(next);
    onOpen(next);
  };
  return (
    <ToolPopover label="Emoji" on={false} icon={<Smile />} open={open} onOpenChange={change}>
      <Command label="Emoji" shouldFilter={false} className="w-72">
        <Command.Input
          autoFocus
          value={search}
          onValueChange={setSearch}
          placeholder="Find an emoji"
          className="w-full border-b bg-transparent px-3 py-2 outline-none"
        />
        <Command.List className="max-h-52 overflow-auto p-1.5">
          <Command.Empty className="px-2 py-3 text-ink-3">No matches.</Command.Empty>
          <div className="grid grid-cols-8">
            {found.map(({ unicode, label }) => (
              <Command.Item
                key={unicode}
                value={label}
                title={label}
                aria-label={label}
                onSelect={() => {
                  change(false);
                  editor.insertWords(unicode);
                }}
                className="flex size-8 cursor-pointer items-center justify-center rounded-md text-title data-[selected=true]:bg-plum-soft"
              >
                {unicode}
              </Command.Item>
            ))}
          </div>
        </Command.List>
      </Command>
    </ToolPopover>
  );
}
