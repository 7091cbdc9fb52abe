import type { Field } from "#core/fields/index.ts";
import { INPUT } from "../ui/field.tsx";

export const refOf = (field: Field) => `contact:${field.id}`;

/** A list of the reader's values, to put one in. */
export const TagSelect = ({
  label,
  fields,
  onTag,
}: {
  label: string;
  fields: readonly Field[];
  onTag: (ref: string) => void;
}) => (
  <select
    aria-label={`${label}: put in a merge tag`}
    value=""
    onChange={(event) => onTag(event.target.value)}
    className={INPUT.replace("w-full", "w-28")}
  >
    <option value="">+ tag</option>
    {fields.map((field) => (
      <option key={field.id} value={refOf(field)}>
        {field.label}
      </option>
    ))}
  </select>
);
