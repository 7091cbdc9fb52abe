/** Ctrl+Enter: every block as a list to search; what is chosen is then placed with the arrow keys. */
import { Command } from "cmdk";
import { BLOCKS, GROUPS } from "#core/blocks/index.ts";
import { Dialog } from "../../ui/dialog.tsx";
import type { Load } from "../placing/load.ts";
import { usePlacer } from "../placing/placing.ts";
import { BlockIcon } from "../tray/icons.tsx";
import type { PanelProps } from "./panel.ts";

export default function BlockList({ onClose }: PanelProps) {
  const placing = usePlacer();
  const take = (load: Load) => {
    onClose();
    placing.begin(load);
  };
  const item =
    "flex cursor-pointer items-center gap-2.5 rounded-md px-2.5 py-1.5 data-[selected=true]:bg-plum-soft data-[selected=true]:text-plum [&>svg]:size-4";
  return (
    <Dialog title="Put in a block" open onOpenChange={onClose}>
      <Command label="Blocks">
        <Command.Input
          autoFocus
          placeholder="Find a block"
          className="mb-2 w-full rounded-md border border-field bg-sheet px-2.5 py-1.5"
        />
        <Command.List className="max-h-80 overflow-auto">
          <Command.Empty className="px-2 py-3 text-ink-3">No matches.</Command.Empty>
          {BLOCKS.map((kind) => (
            <Command.Item
              key={kind.type}
              value={kind.label}
              keywords={[GROUPS[kind.group]]}
              onSelect={() => take({ kind: "new", type: kind.type })}
              className={item}
            >
              <BlockIcon name={kind.icon} /> {kind.label}
              <span className="ml-auto text-small text-ink-3">{GROUPS[kind.group]}</span>
            </Command.Item>
          ))}
          {[1, 2, 3, 4].map((columns) => (
            <Command.Item
              key={columns}
              value={columns === 1 ? "Band" : `Band with ${columns} columns`}
              onSelect={() => take({ kind: "newBand", columns })}
              className={item}
            >
              <BlockIcon name="band" /> {columns === 1 ? "Band" : `Band with ${columns} columns`}
              <span className="ml-auto text-small text-ink-3">{GROUPS.layout}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}
