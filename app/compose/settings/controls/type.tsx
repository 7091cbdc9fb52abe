import { PLAIN_TYPE, TYPE_NUMBERS, type Type } from "#core/blocks/type-style.ts";
import { FONTS, type Font } from "#core/theme/theme.ts";
import { Checkbox } from "../../../ui/checkbox.tsx";
import { Field } from "../../../ui/field.tsx";
import { NumberField } from "../../../ui/number-field.tsx";
import { Select } from "../../../ui/select.tsx";
import { type Props, useValue } from "./control.ts";

const FONT_CHOICES: { value: Font; label: string }[] = [
  { value: "heading", label: "As headings" },
  { value: "body", label: "As body text" },
  ...Object.entries(FONTS).map(([value, { label }]) => ({ value: value as Font, label })),
];

const NUMBERS = Object.keys(TYPE_NUMBERS) as (keyof typeof TYPE_NUMBERS)[];

/** Font, sizes, line height, letter spacing, capitals; what is empty is as the theme has it. */
export function TypeControl({ node, control }: Props<"type">) {
  const [type, set] = useValue<Type>(node, control.path);
  const change = (part: Partial<Type>) => set({ ...type, ...part });
  return (
    <fieldset className="grid grid-cols-2 gap-2.5">
      <legend className="sr-only">{control.label}</legend>
      <Field label="Font">
        {(ids) => (
          <Select
            {...ids}
            value={type.font ?? ""}
            none="As the theme"
            options={FONT_CHOICES}
            onValue={(font) => change({ font: font || null })}
          />
        )}
      </Field>
      {NUMBERS.map((name) => {
        const { empty, ...number } = TYPE_NUMBERS[name];
        return (
          <NumberField
            key={name}
            {...number}
            {...(empty ? { empty } : {})}
            value={type[name]}
            onValue={(value) => change({ [name]: value ?? PLAIN_TYPE[name] })}
          />
        );
      })}
      <Checkbox
        label="In capitals"
        className="col-span-2 text-small"
        checked={type.capitals}
        onChange={(event) => change({ capitals: event.target.checked })}
      />
    </fieldset>
  );
}
