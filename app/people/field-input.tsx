/** The control for a value of a field, by its type. What it gives is read by the field's type again. */
import type { ComponentProps } from "react";
import { type Field, ZONE_NAMES } from "#core/fields/index.ts";
import { INPUT } from "../ui/field.tsx";

type Own = Pick<
  ComponentProps<"input">,
  "id" | "aria-describedby" | "aria-invalid" | "aria-label" | "autoFocus"
>;

/** What is chosen from, where a value is one of a few. */
function optionsOf(
  { type, options }: Pick<Field, "type" | "options">,
  records: readonly string[],
): readonly string[] | null {
  if (type === "record") return records;
  if (type === "yesNo") return ["yes", "no"];
  if (type === "zone") return ZONE_NAMES;
  return type === "choice" ? (options ?? []) : null;
}

export function FieldInput({
  field,
  name,
  value,
  records,
  ...own
}: {
  field: Pick<Field, "type" | "options">;
  name: string;
  /** The value in words; empty for none. */
  value: string;
  /** For pointers: what the records are called. */
  records: readonly string[];
} & Own) {
  const options = optionsOf(field, records);
  if (options) {
    return (
      <select {...(own as object)} name={name} defaultValue={value} className={INPUT}>
        <option value="">–</option>
        {options.map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
    );
  }
  if (field.type === "choices") {
    const chosen = value.split("; ");
    return (
      <fieldset {...(own as object)} className="flex flex-wrap gap-x-3 gap-y-1 py-1">
        <input type="hidden" name={name} value="" />
        {(field.options ?? []).map((option) => (
          <label key={option} className="flex items-center gap-1">
            <input
              type="checkbox"
              name={name}
              value={option}
              defaultChecked={chosen.includes(option)}
              className="accent-plum"
            />
            {option}
          </label>
        ))}
      </fieldset>
    );
  }
  return (
    <input
      {...own}
      name={name}
      type={field.type === "date" ? "date" : "text"}
      inputMode={field.type === "number" ? "decimal" : undefined}
      placeholder={field.type === "place" ? "Name (latitude, longitude)" : undefined}
      defaultValue={value}
      className={INPUT}
    />
  );
}
