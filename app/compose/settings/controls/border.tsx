import { LIMITS } from "#core/limits.ts";
import { NumberField } from "../../../ui/number-field.tsx";
import { ColourControl } from "./colour.tsx";
import { type Props, useValue } from "./control.ts";

/** A border: how thick, and once it is there, in which colour. */
export function BorderControl({ node, control }: Props<"border">) {
  const width = [...control.path, "width"];
  const [px, set] = useValue<number>(node, width);
  return (
    <div className="flex flex-col gap-2.5">
      <NumberField
        label={control.label}
        unit="px"
        value={px}
        min={0}
        max={LIMITS.border}
        onValue={(value) => set(value ?? 0)}
      />
      {px > 0 && (
        <ColourControl
          node={node}
          control={{
            control: "colour",
            path: [...control.path, "colour"],
            label: `Colour of the ${control.label.toLowerCase()}`,
          }}
        />
      )}
    </div>
  );
}
