import { Field } from "../../../ui/field.tsx";
import { Select } from "../../../ui/select.tsx";
import { type Props, useValue } from "./control.ts";

export function ChoiceControl({ node, control }: Props<"choice">) {
  const [value, set] = useValue<string | number>(node, control.path);
  return (
    <Field label={control.label}>
      {(ids) => (
        <Select
          {...ids}
          value={String(value)}
          options={control.options.map(({ value, label }) => ({ value: String(value), label }))}
          onValue={(next) => {
            const chosen = control.options.find((o) => String(o.value) === next);
            if (chosen) set(chosen.value);
          }}
        />
      )}
    </Field>
  );
}
