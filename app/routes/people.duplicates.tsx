/** Contacts that probably are one person, side by side, to be made one. */
import { data } from "react-router";
import { z } from "zod";
import { readValues, recordBook, writeValues } from "#server/audience/field-values.ts";
import { findDuplicates, mergeContacts } from "#server/store/duplicates.ts";
import { getSchema } from "#server/store/fields.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { Empty, Page, PageTitle } from "../ui/page.tsx";
import type { Route } from "./+types/people.duplicates.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Duplicates · Septima" }];

const schema = z.object({
  kept: z.coerce.number().int().positive(),
  others: z.array(z.coerce.number().int().positive()).min(2),
});

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const { fields, tables } = await getSchema(sql);
  const book = await recordBook(sql, fields, tables);
  const groups = await findDuplicates(sql, fields);
  return {
    fields: [...fields.values()].map(({ id, label }) => ({ id, label })),
    groups: groups.map((group) =>
      group.map(({ id, email, added, heldBack, values }) => ({
        id,
        email,
        added,
        heldBack,
        cells: writeValues(values, fields, book),
      })),
    ),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const form = await sentForm(request);
  const asked = schema.safeParse({ kept: form.get("kept"), others: form.getAll("one") });
  if (!asked.success) return data({ problem: "Choose whom to keep.", done: false }, 400);
  const { sql, services } = at(context);
  const { fields, tables } = await getSchema(sql);
  const group = (await findDuplicates(sql, fields)).find((one) =>
    one.some(({ id }) => id === asked.data.kept),
  );
  const all = new Set(group?.map(({ id }) => id));
  if (!group || !asked.data.others.every((id) => all.has(id))) {
    return data(
      { problem: "These people are no longer as they were. Look again.", done: false },
      409,
    );
  }
  const book = await recordBook(sql, fields, tables);
  const written = Object.fromEntries(
    [...fields.keys()].flatMap((id) => {
      const from = group.find((one) => String(one.id) === form.get(`from.${id}`));
      return from ? [[id, writeValues(from.values, fields, book)[id] ?? ""]] : [];
    }),
  );
  const { values } = readValues(written, fields, book);
  await services.database.tx((tx) => mergeContacts(tx, asked.data.kept, asked.data.others, values));
  return data({ problem: null, done: true });
}

type Group = Route.ComponentProps["loaderData"]["groups"][number];

function Merge({
  group,
  fields,
}: {
  group: Group;
  fields: Route.ComponentProps["loaderData"]["fields"];
}) {
  const differing = fields.filter(
    ({ id }) => new Set(group.map((one) => one.cells[id] ?? "")).size > 1,
  );
  /** The first who has a value. */
  const first = (id: string) => group.find((one) => one.cells[id] !== undefined)?.id;
  return (
    <Form method="post" className="mb-8 border-b pb-6">
      <table className="w-full border-collapse text-left" aria-label={group[0]!.email}>
        <thead>
          <tr className="border-b">
            <th scope="col" className="w-44 py-2 text-small font-semibold text-ink-2">
              Keep the address
            </th>
            {group.map((one, i) => (
              <th key={one.id} scope="col" className="py-2 font-normal">
                <input type="hidden" name="one" value={one.id} />
                <label className="flex items-center gap-2 font-semibold">
                  <input
                    type="radio"
                    name="kept"
                    value={one.id}
                    defaultChecked={i === 0}
                    className="accent-plum"
                  />
                  {one.email}
                </label>
                <span className="text-small text-ink-3">
                  added {one.added}
                  {one.heldBack && ` · ${one.heldBack}`}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {differing.map((field) => (
            <tr key={field.id} className="border-b">
              <th scope="row" className="py-1.5 text-small font-semibold">
                {field.label}
              </th>
              {group.map((one) => (
                <td key={one.id} className="py-1.5">
                  <label className="flex items-center gap-2">
                    <input
                      type="radio"
                      name={`from.${field.id}`}
                      value={one.id}
                      defaultChecked={first(field.id) === one.id}
                      className="accent-plum"
                    />
                    {one.cells[field.id] ?? <span className="text-ink-3">nothing</span>}
                  </label>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="my-2 text-small text-ink-2">
        Lists, consent and everything that happened go to the one who is kept.
      </p>
      <Button type="submit" primary>
        Merge them
      </Button>
    </Form>
  );
}

export default function Duplicates({ loaderData, actionData }: Route.ComponentProps) {
  const { groups, fields } = loaderData;
  return (
    <Page wide>
      <PageTitle
        title="Duplicates"
        about="Addresses that differ in upper and lower case or accents only: probably one mailbox, though the standard tells them apart."
      />
      <p role="status" className="mb-3 font-semibold text-leaf">
        {actionData?.done ? "They are merged." : ""}
      </p>
      {actionData?.problem && (
        <p role="alert" className="mb-3 font-semibold text-rust">
          {actionData.problem}
        </p>
      )}
      {groups.length === 0 && (
        <Empty title="No duplicates">Septima looks whenever you open this page.</Empty>
      )}
      {groups.map((group) => (
        <Merge key={group.map(({ id }) => id).join()} group={group} fields={fields} />
      ))}
    </Page>
  );
}
