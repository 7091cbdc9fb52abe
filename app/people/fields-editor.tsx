/** The fields of a table: what they are called, what can be chosen, what new ones get. */

import type { SubmissionResult } from "@conform-to/react";
import { useState } from "react";
import { useSubmit } from "react-router";
import { type Field, KIND_LIST, kindOf } from "#core/fields/index.ts";
import { Button } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { FormErrors, INPUT, Field as Labelled } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { named, Select } from "../ui/select.tsx";
import { count } from "../ui/words.ts";

const withChoices = (type: string) => type === "choice" || type === "choices";

interface Props {
  fields: readonly Field[];
  /** How many have a value of each, by its id. */
  values: Promise<Readonly<Record<string, number>>>;
  tables: readonly { id: string; name: string }[];
  /** What the last form that was sent was told. */
  result?: SubmissionResult<string[]>;
}

function Options({
  options = [],
  errors,
}: {
  options?: readonly string[];
  errors?: string[] | null;
}) {
  return (
    <Labelled label="Choices, one per line" errors={errors}>
      {(own) => (
        <textarea
          {...own}
          name="options"
          rows={Math.min(8, Math.max(3, options.length + 1))}
          defaultValue={options.join("\n")}
          className={INPUT}
        />
      )}
    </Labelled>
  );
}

function NewField({
  tables,
  errors,
}: {
  tables: Props["tables"];
  errors: Record<string, string[]>;
}) {
  const [type, setType] = useState("text");
  return (
    <Form method="post" className="flex flex-col gap-3">
      <Labelled label="A new field" errors={errors.label}>
        {(own) => <input {...own} name="label" className={INPUT} />}
      </Labelled>
      <Labelled label="Its type">
        {(own) => (
          <Select
            {...own}
            name="type"
            value={type}
            options={KIND_LIST.filter((kind) => kind.type !== "record" || tables.length > 0).map(
              ({ type, label }) => ({ value: type, label }),
            )}
            onValue={setType}
          />
        )}
      </Labelled>
      {withChoices(type) && <Options errors={errors.options} />}
      {type === "record" && (
        <Labelled label="Points to" errors={errors.target}>
          {(own) => (
            <Select {...own} name="target" initial={tables[0]?.id ?? ""} options={named(tables)} />
          )}
        </Labelled>
      )}
      <div>
        <Button type="submit" name="do" value="addField">
          Add the field
        </Button>
      </div>
    </Form>
  );
}

function FieldRow({
  field,
  values,
  errors,
}: {
  field: Field;
  values: Props["values"];
  errors: Record<string, string[]>;
}) {
  const submit = useSubmit();
  const standard = field.standard;
  return (
    <details className="border-b">
      <summary className="flex cursor-pointer items-baseline gap-3 py-2">
        <span className="flex-1 font-semibold">{field.label}</span>
        <span className="w-36 text-small text-ink-2">{kindOf(field).label}</span>
        <span className="w-28 text-right text-small text-ink-3">
          <Later of={values}>{(known) => count(known[field.id] ?? 0)}</Later> have one
        </span>
      </summary>
      <Form method="post" className="flex flex-col gap-3 pt-1 pb-4 pl-4">
        <input type="hidden" name="field" value={field.id} />
        <FormErrors errors={errors.field} />
        <Labelled label="Name" errors={errors.label}>
          {(own) => <input {...own} name="label" defaultValue={field.label} className={INPUT} />}
        </Labelled>
        {withChoices(field.type) && <Options options={field.options} errors={errors.options} />}
        {field.type !== "record" && (
          <Labelled
            label="Default value"
            errors={errors.standard}
            hint="Given to new people who have none."
          >
            {(own) => (
              <input
                {...own}
                name="standard"
                defaultValue={
                  standard === null || standard === undefined
                    ? ""
                    : kindOf(field).write(standard, field)
                }
                className={INPUT}
              />
            )}
          </Labelled>
        )}
        <Labelled
          label="Fallback in emails"
          hint="Where somebody has no value, unless the merge tag says otherwise."
        >
          {(own) => (
            <input
              {...own}
              name="fallback"
              defaultValue={field.format?.fallback}
              className={INPUT}
            />
          )}
        </Labelled>
        {field.type === "number" && (
          <div className="grid grid-cols-2 gap-3">
            <Labelled label="Unit">
              {(own) => (
                <input {...own} name="unit" defaultValue={field.format?.unit} className={INPUT} />
              )}
            </Labelled>
            <Labelled label="Decimals" errors={errors.decimals}>
              {(own) => (
                <input
                  {...own}
                  name="decimals"
                  inputMode="numeric"
                  defaultValue={field.format?.decimals ?? ""}
                  className={INPUT}
                />
              )}
            </Labelled>
          </div>
        )}
        <div className="flex gap-2">
          <Button type="submit" name="do" value="changeField" primary>
            Save
          </Button>
          <Confirm
            title={`Delete “${field.label}”?`}
            about={
              <>
                The <Later of={values}>{(known) => count(known[field.id] ?? 0)}</Later> values it
                holds go with it. This cannot be undone.
              </>
            }
            act="Delete the field"
            onAct={() => void submit({ do: "removeField", field: field.id }, { method: "post" })}
            trigger={<Button>Delete</Button>}
          />
        </div>
      </Form>
    </details>
  );
}

export function FieldsEditor({ fields, values, tables, result }: Props) {
  const errors = (result?.error ?? {}) as Record<string, string[]>;
  const sent = result?.initialValue as { do?: string; field?: string } | undefined;
  const of = (field: string | undefined) => (sent?.field === field ? errors : {});
  return (
    <div className="grid grid-cols-[1fr_280px] gap-12">
      <div>
        {fields.length === 0 && <p className="text-ink-3">No fields yet.</p>}
        {fields.map((field) => (
          <FieldRow
            key={`${field.id}${field.label}`}
            field={field}
            values={values}
            errors={of(field.id)}
          />
        ))}
      </div>
      <NewField key={fields.length} tables={tables} errors={of(undefined)} />
    </div>
  );
}
