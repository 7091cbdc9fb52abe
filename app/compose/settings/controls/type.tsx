import type { Type } from "#core/blocks/type-style.ts";
import { FONTS, type Font } from "#core/theme/theme.ts";
import { Field, INPUT } from "../../../ui/field.tsx";
import { type Props, useValue } from "./control.ts";
import { NumberInput } from "./number.tsx";

const FONT_CHOICES: { value: Font; label: string }[] = [
  { value: "heading", label: "As headings" },
  { value: "body", label: "As running words" },
  ...Object.entries(FONTS).map(([value, { label }]) => ({ value: value as Font, label })),
];

/** Font, size, line height, letter spacing, capitals; what is empty is as the theme has it. */
export function TypeControl({ node, control }: Props<"type">) {
  const [type, set] = useValue<Type>(node, control.path);
  const change = (part: Partial<Type>) => set({ ...type, ...part });
  return (
    <fieldset className="grid grid-cols-2 gap-2.5">
      <legend className="sr-only">{control.label}</legend>
      <Field label="Font">
        {(ids) => (
          <select
            {...ids}
            value={type.font ?? ""}
            className={INPUT}
            onChange={(event) => change({ font: (event.target.value || null) as Font | null })}
          >
            <option value="">As the theme</option>
            {FONT_CHOICES.map(({ value, label }) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        )}
      </Field>
      <NumberInput
        label="Size"
        unit="px"
        value={type.size}
        min={10}
        max={72}
        empty="theme"
        onValue={(size) => change({ size })}
      />
      <NumberInput
        label="Line height"
        unit="%"
        value={type.lineHeight}
        min={100}
        max={220}
        empty="theme"
        onValue={(lineHeight) => change({ lineHeight })}
      />
      <NumberInput
        label="Letters apart"
        unit="0.1 px"
        value={type.spacing}
        min={-20}
        max={100}
        onValue={(spacing) => change({ spacing: spacing ?? 0 })}
      />
      <label className="col-span-2 flex items-center gap-2 text-[12px]">
        <input
          type="checkbox"
          checked={type.capitals}
          onChange={(event) => change({ capitals: event.target.checked })}
        />
        In capitals
      </label>
    </fieldset>
  );
}
