import { Field, INPUT } from "../../../ui/field.tsx";
import { type Props, useValue } from "./control.ts";

export function ChoiceControl({ node, control }: Props<"choice">) {
  const [value, set] = useValue<string | number>(node, control.path);
  return (
    <Field label={control.label}>
      {(ids) => (
        <select
          {...ids}
          value={String(value)}
          className={INPUT}
          onChange={(event) => {
            const chosen = control.options.find((o) => String(o.value) === event.target.value);
            if (chosen) set(chosen.value);
          }}
        >
          {control.options.map((option) => (
            <option key={String(option.value)} value={String(option.value)}>
              {option.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
