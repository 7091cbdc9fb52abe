import { valueAt } from "#core/document/index.ts";
import { NumberField } from "../../../ui/number-field.tsx";
import { type Props, useValue } from "./control.ts";

/** The point of a picture that stays in sight where it is cut: as two numbers, where there is a picture. */
export function FocusControl({ node, control }: Props<"focus">) {
  const [focus, set] = useValue<{ x: number; y: number }>(node, control.path);
  if (!valueAt(node.props, control.of)) return null;
  const field = (axis: "x" | "y", label: string) => (
    <NumberField
      label={label}
      unit="%"
      value={focus[axis]}
      min={0}
      max={100}
      onValue={(value) => set({ ...focus, [axis]: value ?? 50 })}
    />
  );
  return (
    <fieldset>
      <legend className="mb-1 text-small text-ink-2">{control.label}</legend>
      <div className="grid grid-cols-2 gap-2.5">
        {field("x", "From the left")}
        {field("y", "From the top")}
      </div>
    </fieldset>
  );
}
