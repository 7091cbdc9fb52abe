/** Something that is dragged onto a sheet, or put after the selection by a click or Enter. */
import { type ComponentProps, useRef } from "react";
import { useCommands } from "../doing/commands.ts";
import { useCarrying } from "../placing/carrying.tsx";
import type { Load } from "../placing/load.ts";
import { usePlacing } from "../placing/placing.ts";

export function Takeable({
  name,
  load,
  className,
  ...more
}: { name: string; load: Load } & ComponentProps<"button">) {
  const { add } = useCommands();
  const press = useCarrying();
  const pressed = useRef<Load>(null);
  const carried = usePlacing(({ load: on }) => on !== null && on === pressed.current);
  return (
    <button
      onPointerDown={(event) => {
        pressed.current = load;
        press(event, load);
      }}
      type="button"
      title={`${name}: drag it onto a sheet, or press Enter to put it after the selection`}
      onClick={() => add(load)}
      className={`cursor-grab rounded-md border border-line-strong bg-sheet hover:border-plum ${carried ? "opacity-40" : ""} ${className}`}
      {...more}
    />
  );
}
