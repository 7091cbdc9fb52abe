import { Switch } from "radix-ui";
import { useId } from "react";
import { type Props, useValue } from "./control.ts";

export function SwitchControl({ node, control }: Props<"switch">) {
  const [value, set] = useValue<boolean>(node, control.path);
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-3">
      <label htmlFor={id} className="text-small">
        {control.label}
      </label>
      <Switch.Root
        id={id}
        checked={value}
        onCheckedChange={set}
        className="h-[18px] w-8 flex-none rounded-full border border-field bg-sheet data-[state=checked]:border-plum data-[state=checked]:bg-plum"
      >
        <Switch.Thumb className="block size-3 translate-x-0.5 rounded-full bg-field data-[state=checked]:translate-x-[15px] data-[state=checked]:bg-on-plum" />
      </Switch.Root>
    </div>
  );
}
