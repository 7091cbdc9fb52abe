/** Fields of contacts, and the tables of records beside them. */
import { data, Link } from "react-router";
import { z } from "zod";
import { fieldIdFor } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { applyFieldForm, fieldFormSchema } from "#server/audience/field-forms.ts";
import { required } from "#server/forms.ts";
import { addTable, CONTACTS, countValues, getSchema } from "#server/store/fields.ts";
import { countRecords } from "#server/store/records.ts";
import { submissionOf } from "../form.ts";
import { FieldsEditor } from "../people/fields-editor.tsx";
import { at, late } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { count } from "../ui/words.ts";
import type { Route } from "./+types/people.fields.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Fields and records · Septima" }];

const schema = z.union([
  fieldFormSchema,
  z.object({ do: z.literal("addTable"), name: required("Give the table a name.") }),
]);

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const { fields, tables } = await getSchema(sql);
  return {
    fields: [...fields.values()],
    values: late(context, () => countValues(sql, CONTACTS, fields)),
    records: late(context, () => countRecords(sql, [...tables.keys()])),
    tables: [...tables.values()].map(({ id, name, fields: own }) => ({
      id,
      name,
      fields: [...own.values()].map(({ label }) => label),
    })),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { services, now } = at(context);
  const asked = submission.value;
  const errors = await services.database.tx(async (sql) => {
    if (asked.do !== "addTable") return applyFieldForm(sql, CONTACTS, asked);
    const { tables } = await getSchema(sql);
    if (tables.size >= LIMITS.recordTables)
      return { name: [`At most ${LIMITS.recordTables} tables.`] };
    const id = fieldIdFor(asked.name, (one) => tables.has(one) || one === CONTACTS);
    await addTable(sql, id, asked.name, now);
    return null;
  });
  if (errors) return data(submission.reply({ fieldErrors: errors }), 409);
  return data(submission.reply({ resetForm: true }));
}

export default function Fields({ loaderData, actionData }: Route.ComponentProps) {
  const { fields, tables, values, records } = loaderData;
  const errors = (actionData?.error ?? {}) as Record<string, string[]>;
  return (
    <Page wide>
      <PageTitle
        title="Fields and records"
        about="What is known of people. Rules, merge tags and imports go by these."
      />
      <FieldsEditor fields={fields} values={values} tables={tables} result={actionData} />
      <section aria-label="Records" className="mt-10">
        <h2 className="text-head">Records beside people</h2>
        <p className="mb-3 max-w-[640px] text-small text-ink-2">
          Small tables of your own: sites, people in charge, plots. A field of a person can point to
          a record, a record to another, and tags and rules follow.
        </p>
        <ul className="max-w-[640px]">
          {tables.map((table) => (
            <li key={table.id} className="flex items-baseline gap-4 border-b py-2">
              <Link to={`/people/records/${table.id}`} className="font-semibold hover:underline">
                {table.name}
              </Link>
              <span className="flex-1 truncate text-small text-ink-3">
                {table.fields.join(" · ")}
              </span>
              <span className="font-display text-title">
                <Later of={records}>{(known) => count(known.get(table.id) ?? 0)}</Later>
              </span>
            </li>
          ))}
        </ul>
        <Form method="post" className="mt-4 flex items-end gap-2" key={tables.length}>
          <Field label="A new table of records" errors={errors.name}>
            {(own) => <input {...own} name="name" className={`${INPUT} w-64`} />}
          </Field>
          <Button type="submit" name="do" value="addTable">
            Add the table
          </Button>
        </Form>
      </section>
    </Page>
  );
}
