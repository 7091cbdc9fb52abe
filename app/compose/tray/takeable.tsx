/** Something that is dragged onto a sheet, or put after the selection by a click or Enter. */
import { useDraggable } from "@dnd-kit/core";
import type { ComponentProps } from "react";
import { useCommands } from "../doing/commands.ts";
import type { Load } from "../placing/load.ts";

export function Takeable({
  id,
  name,
  load,
  className,
  ...more
}: { id: string; name: string; load: Load } & ComponentProps<"button">) {
  const { add } = useCommands();
  const { setNodeRef, listeners, isDragging } = useDraggable({ id, data: { load } });
  return (
    <button
      ref={setNodeRef}
      {...listeners}
      type="button"
      title={`${name}: drag it onto a sheet, or press Enter to put it after the selection`}
      onClick={() => add(load)}
      className={`cursor-grab rounded-md border border-line-strong bg-sheet hover:border-plum ${isDragging ? "opacity-40" : ""} ${className}`}
      {...more}
    />
  );
}
