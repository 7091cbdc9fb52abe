/** The control for a value of a field, by its type. What it gives is read by the field's type again. */
import type { ComponentProps } from "react";
import { type Field, ZONE_NAMES } from "#core/fields/index.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { DayInput } from "../ui/day-field.tsx";
import { INPUT } from "../ui/field.tsx";
import { type Finder, finderOf } from "../ui/finder.ts";
import { Select } from "../ui/select.tsx";

type Own = Pick<ComponentProps<"input">, "id" | "aria-describedby" | "aria-label" | "autoFocus"> & {
  "aria-invalid"?: true;
};

/** Records are known by their names in what people write. */
function recordsByName(table: string): Finder {
  const byId = finderOf("records", table);
  return {
    async find(words) {
      const found = await byId.find(words);
      return found?.map(({ label }) => ({ value: label, label })) ?? null;
    },
    nameOf: async (name) => ({ value: name, label: name }),
  };
}

/** What is chosen from, where a value is one of a few. */
function optionsOf({ type, options }: Pick<Field, "type" | "options">): readonly string[] | null {
  if (type === "record") return [];
  if (type === "yesNo") return ["yes", "no"];
  if (type === "zone") return ZONE_NAMES;
  return type === "choice" ? (options ?? []) : null;
}

export function FieldInput({
  field,
  name,
  value,
  bare = false,
  ...own
}: {
  field: Pick<Field, "type" | "options" | "table">;
  name: string;
  /** The value in words; empty for none. */
  value: string;
  /** For pages of readers, which work without a script and with a phone's own lists. */
  bare?: boolean;
} & Own) {
  const options = optionsOf(field);
  const { "aria-label": label, ...ids } = own;
  if (options && bare) {
    return (
      <select {...(own as object)} name={name} defaultValue={value} className={INPUT}>
        <option value="">–</option>
        {options.map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
    );
  }
  if (options) {
    return (
      <Select
        {...ids}
        label={label}
        name={name}
        initial={value}
        none="–"
        options={options.map((one) => ({ value: one, label: one }))}
        finder={field.type === "record" ? recordsByName(field.table ?? "") : undefined}
      />
    );
  }
  if (field.type === "choices") {
    const chosen = value.split("; ");
    return (
      <fieldset {...(own as object)} className="flex flex-wrap gap-x-3 gap-y-1 py-1">
        <input type="hidden" name={name} value="" />
        {(field.options ?? []).map((option) => (
          <Checkbox
            key={option}
            label={option}
            name={name}
            value={option}
            defaultChecked={chosen.includes(option)}
          />
        ))}
      </fieldset>
    );
  }
  if (field.type === "date" && !bare) {
    return <DayInput {...own} label={label ?? "day"} isoName={name} initial={value} />;
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
