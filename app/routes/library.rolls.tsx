/** Code rolls: the list of them, and a new one. */
import { data, Link, redirect } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { dayAndYear } from "#core/schedule/day.ts";
import { required } from "#server/forms.ts";
import { addRoll, getRolls } from "#server/store/codes.ts";
import { submissionOf } from "../form.ts";
import { at, listed } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { count } from "../ui/words.ts";
import type { Route } from "./+types/library.rolls.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Code rolls · Septima" }];

const schema = z.object({ name: required("Give the roll a name.") });

export async function loader({ request, context }: Route.LoaderArgs) {
  const all = await getRolls(at(context).sql);
  const { shown, ...list } = listed(new URL(request.url), all, LIMITS.sourcesPerPage);
  return { ...list, rolls: shown };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, now } = at(context);
  const fresh = { emptyText: "", warnAt: 0, expires: null, again: false };
  const id = await addRoll(sql, { ...fresh, name: submission.value.name }, now);
  return redirect(`/library/rolls/${id}`);
}

export default function Rolls({ loaderData, actionData }: Route.ComponentProps) {
  const { rolls, search, page, pages } = loaderData;
  return (
    <Page>
      <PageTitle
        title="Code rolls"
        about="Lists of unique codes. One is torn off for each reader, like a ticket."
      >
        {(pages > 1 || search) && (
          <SearchForm label="Search code rolls" hint="Search by name" search={search} />
        )}
        <Form method="post" className="flex items-end gap-2">
          <Field label="A new roll" errors={actionData?.error?.name}>
            {(own) => <input {...own} name="name" className={INPUT} />}
          </Field>
          <Button type="submit" primary>
            Make it
          </Button>
        </Form>
      </PageTitle>
      <Listing
        list={{ search, page, pages }}
        empty={rolls.length === 0}
        nothing={<Empty title="No code rolls yet">Give one a name, then add codes to it.</Empty>}
      >
        <Table
          label="Code rolls"
          rows={rolls}
          keyOf={(row) => row.id}
          columns={[
            {
              title: "Name",
              cell: (row) => (
                <Link to={row.id} className="font-semibold hover:underline">
                  {row.name}
                </Link>
              ),
            },
            { title: "Codes", right: true, cell: (row) => count(row.all) },
            { title: "Left", right: true, cell: (row) => count(row.left) },
            {
              title: "Valid until",
              cell: (row) => (row.expires ? dayAndYear(row.expires) : "for ever"),
            },
            {
              title: "",
              cell: (row) => (row.left < row.warnAt ? <Chip tone="some">runs low</Chip> : null),
            },
          ]}
        />
      </Listing>
    </Page>
  );
}
