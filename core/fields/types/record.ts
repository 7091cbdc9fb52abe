import type { FieldKind } from "../kind.ts";

/** Points to a record of a table, by its id. In files and on screen it goes by the record's name. */
export const record: FieldKind<number> = {
  type: "record",
  label: "A record",
  column: "bigint",
  key: null,
  check: (value) =>
    typeof value === "number" && Number.isSafeInteger(value) && value > 0 ? value : null,
  parse(text, field, reading) {
    const name = text.trim();
    if (name === "") return { value: null };
    const value = field.table ? reading.record(field.table, name) : null;
    return value ? { value } : { problem: `there is no record called “${name.slice(0, 40)}”` };
  },
  write: (value) => String(value),
  sample: ({ label }) => label,
};
