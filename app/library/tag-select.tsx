import type { Field } from "#core/fields/index.ts";
import { Select } from "../ui/select.tsx";

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
  <Select
    label={`${label}: put in a merge tag`}
    value=""
    hint="+ tag"
    options={fields.map((field) => ({ value: refOf(field), label: field.label }))}
    onValue={onTag}
    className="w-28 flex-none"
  />
);
