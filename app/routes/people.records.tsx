/** One table of records: its rows, and its fields. */
import { Upload } from "lucide-react";
import { data, Link, redirect, useSubmit } from "react-router";
import { z } from "zod";
import { kindOf } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import {
  applyFieldForm,
  fieldFormSchema,
  segmentsFollowing,
} from "#server/audience/field-forms.ts";
import { readValues, recordBook, writeValues } from "#server/audience/field-values.ts";
import { DatabaseError } from "#server/db/database.ts";
import { required } from "#server/forms.ts";
import { takeOutRecord } from "#server/store/bin.ts";
import { countValues, getSchema, removeTable, renameTable } from "#server/store/fields.ts";
import {
  addRecords,
  changeRecord,
  countFound,
  getRecord,
  searchRecords,
} from "#server/store/records.ts";
import { sentForm, submissionOf } from "../form.ts";
import { FieldInput } from "../people/field-input.tsx";
import { FieldsEditor } from "../people/fields-editor.tsx";
import { toldSince, writtenIn } from "../people/save-values.ts";
import { Seen } from "../people/seen.tsx";
import { tellingRemoved } from "../removed.ts";
import { at, late, paged, searchIn } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import type { Route } from "./+types/people.records.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Records · Septima" }];

const id = z.coerce.number().int().positive();
const name = required("Give the record a name.");
/** The name among a record's values: no field is called that. */
const NAME = "*";
const schema = z.union([
  fieldFormSchema,
  z.object({ do: z.literal("add"), name }),
  z.object({ do: z.literal("change"), id, name }),
  z.object({ do: z.literal("remove"), id }),
  z.object({ do: z.literal("rename"), name }),
  z.object({ do: z.literal("removeTable") }),
]);

async function tableOf(context: Route.LoaderArgs["context"], table: string) {
  const schema = await getSchema(at(context).sql);
  const found = schema.tables.get(table);
  if (!found) throw data("This table is gone.", { status: 404 });
  return { ...schema, table: found };
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const { table, tables } = await tableOf(context, params.table);
  const book = await recordBook(sql, table.fields, tables);
  const url = new URL(request.url);
  const search = searchIn(url);
  const limit = LIMITS.contactsPerPage;
  const { page, pages, from } = paged(url, await countFound(sql, table.id, search), limit);
  const shown = await searchRecords(sql, table.id, table.fields, { search, from, limit });
  const wanted = Number(url.searchParams.get("record"));
  const one =
    Number.isInteger(wanted) && wanted > 0
      ? (shown.find(({ id }) => id === wanted) ??
        (await getRecord(sql, table.id, table.fields, wanted)))
      : null;
  const rowOf = ({ id, name, values }: (typeof shown)[number]) => ({
    id,
    name,
    cells: writeValues(values, table.fields, book),
  });
  return {
    search,
    page,
    pages,
    chosen: one && rowOf(one),
    id: table.id,
    name: table.name,
    fields: [...table.fields.values()],
    values: late(context, () => countValues(sql, table.id, table.fields)),
    tables: [...tables.values()].map((one) => ({ id: one.id, name: one.name })),
    rows: shown.map(rowOf),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const form = await sentForm(request);
  const submission = await submissionOf(form, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, services, now } = at(context);
  const { table, tables } = await tableOf(context, params.table);
  const asked = submission.value;
  const refuse = (fieldErrors: Record<string, string[]>, seen: Record<string, string> = {}) =>
    data({ ...submission.reply({ fieldErrors }), seen }, 409);
  switch (asked.do) {
    case "removeTable": {
      const uses = await segmentsFollowing(sql, table.id);
      if (uses.length > 0) {
        const formErrors = [`It is used by ${uses.join(", ")}.`];
        return data(submission.reply({ formErrors }), 409);
      }
      await services.database.tx((tx) => removeTable(tx, table.id));
      return redirect("/people/fields");
    }
    case "rename":
      await renameTable(sql, table.id, asked.name);
      break;
    case "remove": {
      const record = await getRecord(sql, table.id, table.fields, asked.id);
      const label = `The record “${record?.name ?? ""}”`;
      const removed = await services.database.tx((tx) =>
        takeOutRecord(tx, table.id, asked.id, label, now),
      );
      const path = `/people/records/${table.id}`;
      return removed ? tellingRemoved(path, removed) : redirect(path);
    }
    case "add":
    case "change": {
      const book = await recordBook(sql, table.fields, tables);
      const { values, problems } = readValues(writtenIn(form), table.fields, book);
      const refuseValues = (since: Record<string, string> = {}) => {
        const wrong = Object.entries(problems).map(([key, what]) => [
          key === NAME ? "name" : `f.${key}`,
          [`${what}.`],
        ]);
        return refuse(Object.fromEntries(wrong), since);
      };
      // The name is one of its values to whoever changes it.
      form.set(`f.${NAME}`, asked.name);
      try {
        if (asked.do === "add") {
          if (Object.keys(problems).length > 0) return refuseValues();
          if ((await countFound(sql, table.id)) >= LIMITS.recordsPerTable) {
            return refuse({ name: [`At most ${LIMITS.recordsPerTable} records.`] });
          }
          await addRecords(sql, table.id, table.fields, [{ name: asked.name, values }], now);
        } else {
          const since = await services.database.tx(async (tx) => {
            const there = await getRecord(tx, table.id, table.fields, asked.id);
            if (!there) return "gone";
            const cells = { ...writeValues(there.values, table.fields, book), [NAME]: there.name };
            const since = toldSince(form, cells, problems);
            if (Object.keys(problems).length > 0) return since;
            const name = writtenIn(form)[NAME] ?? there.name;
            await changeRecord(tx, table.id, table.fields, asked.id, { name, values });
            return null;
          });
          if (since === "gone") {
            return refuse({ name: ["This record has been deleted meanwhile."] });
          }
          if (since) return refuseValues(since);
        }
      } catch (error) {
        if (!(error instanceof DatabaseError && error.code === "23505")) throw error;
        return refuse({ name: ["There is one of this name already."] });
      }
      return redirect(`/people/records/${table.id}`);
    }
    default: {
      const errors = await services.database.tx((tx) => applyFieldForm(tx, table.id, asked));
      if (errors) return refuse(errors);
    }
  }
  return data(submission.reply({ resetForm: true }));
}

type Loaded = Route.ComponentProps["loaderData"];

function RecordForm({
  row,
  loaded,
  errors,
  seen,
}: {
  row: Loaded["rows"][number] | null;
  loaded: Loaded;
  errors: Record<string, string[]>;
  seen: Record<string, string> | null;
}) {
  const submit = useSubmit();
  return (
    <Form method="post" className="flex flex-col gap-3" key={row?.id ?? "new"}>
      {row && <input type="hidden" name="id" value={row.id} />}
      {row && (
        <Seen
          fields={[NAME, ...loaded.fields.map((field) => field.id)]}
          shown={{ ...row.cells, [NAME]: row.name }}
          seen={seen}
        />
      )}
      <Field label="Name" errors={errors.name}>
        {(own) => <input {...own} name="name" defaultValue={row?.name} className={INPUT} />}
      </Field>
      {loaded.fields.map((field) => (
        <Field
          key={field.id}
          label={`${field.label} · ${kindOf(field).label.toLowerCase()}`}
          errors={errors[`f.${field.id}`]}
        >
          {(own) => (
            <FieldInput
              {...own}
              field={field}
              name={`f.${field.id}`}
              value={row?.cells[field.id] ?? ""}
            />
          )}
        </Field>
      ))}
      <div className="flex gap-2">
        <Button type="submit" name="do" value={row ? "change" : "add"} primary>
          {row ? "Save" : "Add the record"}
        </Button>
        {row && (
          <Button
            onClick={() => void submit({ do: "remove", id: String(row.id) }, { method: "post" })}
          >
            Delete the record
          </Button>
        )}
      </div>
    </Form>
  );
}

export default function Records({ loaderData, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const { name: title, fields, values, rows, tables, chosen, search, page, pages } = loaderData;
  const hrefOf = (more: Record<string, string>) =>
    `?${new URLSearchParams({ search, page: String(page), ...more })}`;
  const errors = (actionData?.error ?? {}) as Record<string, string[]>;
  const { seen } = (actionData ?? {}) as { seen?: Record<string, string> };
  const sent = actionData?.initialValue as { do?: string } | undefined;
  const ofRecord = sent?.do === "add" || sent?.do === "change" ? errors : {};
  return (
    <Page wide>
      <PageTitle title={title} about="Records that people and other records can point to.">
        <Buttonlike asChild>
          <Link to={`/people/imports?into=${loaderData.id}`}>
            <Upload className="size-4" /> Import
          </Link>
        </Buttonlike>
        <Form method="post" className="flex items-end gap-2" key={title}>
          <input
            name="name"
            aria-label="Name of the table"
            defaultValue={title}
            className={INPUT}
          />
          <Button type="submit" name="do" value="rename">
            Rename
          </Button>
          <Confirm
            title={`Delete “${title}”?`}
            about="Its records go with it, and every field that points to it. This cannot be undone."
            act="Delete the table"
            onAct={() => void submit({ do: "removeTable" }, { method: "post" })}
            trigger={<Button>Delete</Button>}
          />
        </Form>
      </PageTitle>
      <FormErrors errors={actionData?.error?.[""]} />
      <div className="grid grid-cols-[1fr_320px] gap-12">
        <div>
          {(pages > 1 || search) && (
            <div className="mb-2">
              <SearchForm label="Search records" hint="Search by name" search={search} />
            </div>
          )}
          {rows.length === 0 && (
            <Empty title={search ? "No matches" : "No records yet"}>
              {search ? "Try fewer letters." : "Add the first, or import a file."}
            </Empty>
          )}
          <Table
            label={title}
            rows={rows}
            keyOf={(row) => row.id}
            columns={[
              {
                title: "Name",
                cell: (row) => (
                  <Link
                    to={hrefOf({ record: String(row.id) })}
                    className="font-semibold hover:underline"
                  >
                    {row.name}
                  </Link>
                ),
              },
              ...fields.map((field) => ({
                title: field.label,
                cell: (row: (typeof rows)[number]) => row.cells[field.id] ?? "–",
              })),
            ]}
          />
          <Pager page={page} pages={pages} hrefOf={(to) => hrefOf({ page: String(to) })} />
        </div>
        <section aria-label={chosen ? chosen.name : "A new record"}>
          <h2 className="mb-2 flex items-baseline justify-between text-head">
            {chosen ? chosen.name : "A new record"}
            {chosen && (
              <Link to={hrefOf({})} className="link text-small">
                Add another
              </Link>
            )}
          </h2>
          <RecordForm
            key={`${chosen?.id}`}
            row={chosen}
            loaded={loaderData}
            errors={ofRecord}
            seen={seen ?? null}
          />
        </section>
      </div>
      <h2 className="mt-10 mb-1 text-head">Fields of {title}</h2>
      <FieldsEditor fields={fields} values={values} tables={tables} result={actionData} />
    </Page>
  );
}
