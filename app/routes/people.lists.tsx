import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, Link } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { addList, countLists, getLists, renameList, usesOf } from "#server/store/audience.ts";
import { namesOf } from "#server/store/finding.ts";
import { submissionOf } from "../form.ts";
import { removing } from "../removed.ts";
import { at, paged, searchIn } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors, INPUT, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { people } from "../ui/words.ts";
import type { Route } from "./+types/people.lists.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Lists · Septima" }];

const name = required("Give the list a name.");
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("add"), name }),
  z.object({ do: z.literal("rename"), list: z.string(), name }),
  z.object({ do: z.literal("remove"), list: z.string() }),
]);

const PER_PAGE = LIMITS.sourcesPerPage;

export async function loader({ request, context }: Route.LoaderArgs) {
  const url = new URL(request.url);
  const search = searchIn(url);
  const { sql } = at(context);
  const found = await countLists(sql, search);
  const { page, pages, from } = paged(url, found, PER_PAGE);
  return {
    lists: await getLists(sql, { search, from, limit: PER_PAGE }),
    total: search ? await countLists(sql) : found,
    search,
    page,
    pages,
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, now } = at(context);
  const asked = submission.value;
  if (asked.do === "add") {
    if ((await countLists(sql)) >= LIMITS.lists) {
      return data(submission.reply({ formErrors: [`At most ${LIMITS.lists} lists.`] }), 409);
    }
    await addList(sql, asked.name, [], now);
  } else if (asked.do === "rename") await renameList(sql, asked.list, asked.name);
  else {
    const uses = await usesOf(sql, { kind: "list", id: asked.list });
    if (uses.length > 0) {
      return data(submission.reply({ formErrors: [`It is used by ${uses.join(", ")}.`] }), 409);
    }
    const [list] = await namesOf(sql, "lists", [asked.list], "");
    return removing(
      context,
      "lists",
      asked.list,
      `The list “${list?.name ?? ""}”`,
      "/people/lists",
    );
  }
  return data(submission.reply({ resetForm: true }));
}

export default function Lists({ loaderData, actionData }: Route.ComponentProps) {
  const { lists, total, search, page, pages } = loaderData;
  const [form, fields] = useForm({
    lastResult: actionData,
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  return (
    <Page wide>
      <PageTitle
        title="Lists"
        about="People picked by hand, by a file or by a sign-up. They stay until somebody takes them off."
      >
        {total > PER_PAGE / 4 && (
          <SearchForm label="Search lists" hint="Search by name" search={search} />
        )}
      </PageTitle>
      <FormErrors errors={form.errors} />
      <Form method="post" {...getFormProps(form)} className="mb-6 flex items-end gap-2">
        <TextField meta={fields.name} label="A new list" className="w-72" />
        <Button type="submit" name="do" value="add">
          Add the list
        </Button>
      </Form>
      {lists.length === 0 && (
        <Empty title={total > 0 ? "No matches" : "No lists yet"}>
          {total > 0 ? "Try fewer letters." : "Add one, and put people on it from the table."}
        </Empty>
      )}
      <ul>
        {lists.map((list) => (
          <li key={list.id} className="flex items-center gap-4 border-b py-2">
            <Form method="post" className="flex flex-1 items-center gap-2">
              <input type="hidden" name="list" value={list.id} />
              <input
                name="name"
                aria-label={`The name of ${list.name}`}
                defaultValue={list.name}
                className={`${INPUT} max-w-80 border-transparent bg-transparent font-semibold`}
              />
              <Button type="submit" name="do" value="rename">
                Rename
              </Button>
              <Button type="submit" name="do" value="remove">
                Delete
              </Button>
            </Form>
            <Link
              to={`/people?list=${list.id}`}
              className="font-display text-title hover:underline"
            >
              {people(list.people)}
            </Link>
          </li>
        ))}
      </ul>
      <Pager
        page={page}
        pages={pages}
        hrefOf={(to) => `?${new URLSearchParams({ search, page: String(to) })}`}
      />
    </Page>
  );
}
