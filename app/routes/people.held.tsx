/** The addresses that get nothing, whatever list they are on. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, Link, useSubmit } from "react-router";
import { z } from "zod";
import { readAddress } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { pageOfSuppressions, release, suppressAll } from "#server/store/suppressions.ts";
import { submissionOf } from "../form.ts";
import { at, pageNumber, searchIn, zoneOf } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { TextAreaField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { count, counted, dated } from "../ui/words.ts";
import type { Route } from "./+types/people.held.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Suppressed · Septima" }];

/** Addresses out of a list or a CSV file: every cell that is one. */
const addressesIn = (text: string) => text.split(/[\s,;|"]+/).filter((cell) => cell.includes("@"));

const schema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("block"),
    addresses: z
      .string("Write one address per line.")
      .max(LIMITS.heldText, "This is too much at once.")
      .transform((text, ctx) => {
        const found = addressesIn(text);
        const wrong = found.find((one) => readAddress(one) === null);
        if (wrong) ctx.addIssue(`“${wrong.slice(0, 60)}” is not a mail address.`);
        if (found.length === 0) ctx.addIssue("There is no address in this.");
        return found;
      }),
  }),
  z.object({ do: z.literal("release"), email: z.string() }),
]);

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const page = pageNumber(url);
  const { rows, total } = await pageOfSuppressions(sql, search, page);
  const zone = await zoneOf(context);
  return {
    search,
    page,
    total,
    pages: Math.max(1, Math.ceil(total / LIMITS.contactsPerPage)),
    rows: rows.map(({ email, reason, at: since }) => ({
      email,
      reason,
      since: dated(since, zone),
    })),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ result: submission.reply(), said: "" }, 400);
  const { sql, now } = at(context);
  const asked = submission.value;
  if (asked.do === "release") {
    await release(sql, asked.email);
    return data({ result: submission.reply(), said: `${asked.email} is no longer suppressed.` });
  }
  const added = await suppressAll(sql, asked.addresses, "blocked", now);
  return data({
    result: submission.reply({ resetForm: true }),
    said: `${count(added)} of ${count(asked.addresses.length)} are new on the list.`,
  });
}

export default function Held({ loaderData, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const { rows, search, page, pages, total } = loaderData;
  const [form, fields] = useForm({
    lastResult: actionData?.result,
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
  });
  return (
    <Page wide>
      <PageTitle
        title="Suppressed"
        about="Nothing is sent to these addresses, whatever list or segment they are in."
      >
        <SearchForm label="Search addresses" hint="Part of an address" search={search} />
        <Buttonlike asChild>
          <Link to="/people/held/held.csv" reloadDocument>
            Download all
          </Link>
        </Buttonlike>
      </PageTitle>
      <p role="status" className="mb-2 font-semibold text-leaf">
        {actionData?.said}
      </p>
      <div className="grid grid-cols-[1fr_320px] gap-12">
        <section aria-label="Addresses">
          {rows.length === 0 ? (
            <Empty title={search ? "No such address" : "Nobody is suppressed"}>
              Addresses that unsubscribe or bounce are added by themselves.
            </Empty>
          ) : (
            <Table
              label="Suppressed addresses"
              rows={rows}
              keyOf={(row) => row.email}
              columns={[
                {
                  title: "Email address",
                  cell: (row) =>
                    row.email.startsWith("erased:") ? (
                      <span className="text-ink-3">an erased person</span>
                    ) : (
                      <span className="font-semibold">{row.email}</span>
                    ),
                },
                { title: "Reason", cell: (row) => <Chip tone="wrong">{row.reason}</Chip> },
                { title: "Since", cell: (row) => row.since },
                {
                  title: "",
                  right: true,
                  cell: (row) => (
                    <Confirm
                      title={`Send to ${row.email} again?`}
                      about="Only do this where they asked for it."
                      act="Allow emails again"
                      onAct={() =>
                        void submit({ do: "release", email: row.email }, { method: "post" })
                      }
                      trigger={
                        <Button aria-label={`Allow emails again: ${row.email}`}>
                          Allow emails again
                        </Button>
                      }
                    />
                  ),
                },
              ]}
            />
          )}
          <Pager
            page={page}
            pages={pages}
            hrefOf={(n) => `?${new URLSearchParams({ search, page: String(n) })}`}
          />
          <p className="mt-2 text-small text-ink-3">{counted(total, "address", "addresses")}</p>
        </section>
        <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
          <h2 className="text-head">Suppress more addresses</h2>
          <TextAreaField
            meta={fields.addresses}
            label="One address per line, or a CSV file’s text"
            rows={8}
          />
          <label className="link w-fit cursor-pointer text-small focus-within:outline-2">
            Read them from a file
            <input
              type="file"
              accept=".csv,.txt,text/csv,text/plain"
              className="sr-only"
              onChange={async (event) => {
                const area = event.currentTarget.form?.elements.namedItem("addresses");
                const text = await event.currentTarget.files?.[0]?.text();
                if (text && area instanceof HTMLTextAreaElement) area.value = text;
              }}
            />
          </label>
          <div>
            <Button type="submit" name="do" value="block" primary>
              Suppress them
            </Button>
          </div>
        </Form>
      </div>
    </Page>
  );
}
