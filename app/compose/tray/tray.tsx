/** Where blocks are taken from: by dragging up, or with Enter after the selection. */
import { useDraggable } from "@dnd-kit/core";
import { Columns2, Columns3, Columns4, Square } from "lucide-react";
import { BLOCKS, GROUPS } from "#core/blocks/index.ts";
import type { BlockGroup } from "#core/kinds/kind.ts";
import type { Load } from "../actions.ts";
import { useComposer } from "../context.ts";
import { BlockIcon } from "./icons.tsx";

function Item({
  id,
  label,
  load,
  icon,
  bare = false,
}: {
  id: string;
  label: string;
  load: Load;
  icon: React.ReactNode;
  /** Only the icon is shown; the label is read aloud and stands in the hint. */
  bare?: boolean;
}) {
  const { add } = useComposer();
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `tray:${id}`, data: { load } });
  return (
    <button
      ref={setNodeRef}
      {...listeners}
      type="button"
      data-tray={id}
      onClick={() => add(load)}
      title={`${label}: drag it onto a sheet, or press Enter to put it after the selection`}
      className={`inline-flex h-7 cursor-grab items-center gap-1.5 rounded-md border border-line-strong bg-sheet px-2 text-[12px] font-medium whitespace-nowrap hover:border-plum ${isDragging ? "opacity-40" : ""} [&>svg]:size-4 [&>svg]:stroke-[1.6]`}
    >
      {icon}
      {bare ? <span className="sr-only">{label}</span> : label}
    </button>
  );
}

const BANDS = [
  { columns: 1, label: "Band", icon: <Square /> },
  { columns: 2, label: "2 columns", icon: <Columns2 /> },
  { columns: 3, label: "3 columns", icon: <Columns3 /> },
  { columns: 4, label: "4 columns", icon: <Columns4 /> },
] as const;

export function Tray() {
  return (
    <section
      aria-label="Tray"
      className="flex h-[76px] flex-none overflow-x-auto border-t bg-paper px-3"
    >
      {(Object.entries(GROUPS) as [BlockGroup, string][]).map(([group, name]) => (
        <div
          key={group}
          role="group"
          aria-label={name}
          className="flex-none border-l px-3 pt-2 first:border-l-0 first:pl-1"
        >
          <div className="mb-1 font-display text-[13px] text-ink-2 italic">{name}</div>
          <div className="flex gap-1.5">
            {group === "layout" &&
              BANDS.map(({ columns, label, icon }) => (
                <Item
                  key={columns}
                  id={`band${columns}`}
                  label={label}
                  icon={icon}
                  bare={columns > 1}
                  load={{ kind: "newBand", columns }}
                />
              ))}
            {BLOCKS.filter((kind) => kind.group === group).map((kind) => (
              <Item
                key={kind.type}
                id={kind.type}
                label={kind.label}
                icon={<BlockIcon name={kind.icon} />}
                load={{ kind: "new", type: kind.type }}
              />
            ))}
          </div>
        </div>
      ))}
    </section>
  );
}
