/** One person: what is known, and what happened. */
import { data, Link, redirect, useNavigation } from "react-router";
import { kindOf, readAddress } from "#core/fields/index.ts";
import { dayAndYear } from "#core/schedule/day.ts";
import { recordBook, writeValues } from "#server/audience/field-values.ts";
import { listsOf } from "#server/store/audience.ts";
import { changeAddress, contactByAddress, getContact } from "#server/store/contacts.ts";
import { eraseContact } from "#server/store/erasing.ts";
import { getSchema } from "#server/store/fields.ts";
import { timelineOf } from "#server/store/timeline.ts";
import { consentsOf } from "#server/store/topics.ts";
import { sentForm } from "../form.ts";
import { FieldInput } from "../people/field-input.tsx";
import { contactName } from "../people/names.ts";
import { changedMeanwhile, saveValues } from "../people/save-values.ts";
import { Seen } from "../people/seen.tsx";
import { Timeline } from "../people/timeline.tsx";
import { at, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Page, PageTitle } from "../ui/page.tsx";
import { dated } from "../ui/words.ts";
import type { Route } from "./+types/people.contact.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.name ?? "Person"} · Septima` },
];

async function contactOf(context: Route.LoaderArgs["context"], id: string) {
  const number = Number(id);
  const contact = Number.isSafeInteger(number) ? await getContact(at(context).sql, number) : null;
  if (!contact) throw data("This person is gone.", { status: 404 });
  return contact;
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const contact = await contactOf(context, params.contact);
  const { fields, tables } = await getSchema(sql);
  return {
    id: contact.id,
    email: contact.email,
    name: contactName(contact),
    heldBack: contact.heldBack,
    added: contact.added,
    fields: [...fields.values()],
    cells: writeValues(contact.values, fields, await recordBook(sql, fields, tables)),
    lists: await listsOf(sql, contact.id),
    timeline: await timelineOf(sql, contact.id),
    consents: await consentsOf(sql, contact.id),
    preferences: `/p/${services.signer.sign({ kind: "person", contact: contact.id })}`,
    zone: await zoneOf(context),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const contact = await contactOf(context, params.contact);
  const form = await sentForm(request);
  if (form.get("do") === "erase") {
    const written = readAddress(String(form.get("email") ?? ""));
    if (written?.address !== contact.email) {
      const problem = "Write the address of this person to erase them.";
      return data({ problems: { erase: problem }, problem, cells: null, seen: null }, 400);
    }
    const { services, now } = at(context);
    await services.database.tx((sql) => eraseContact(sql, contact.id, now));
    services.wake();
    return redirect("/people");
  }
  const written = form.get("email");
  const was = form.get("was.email") ?? contact.email;
  const seen: Record<string, string> = {};
  if (typeof written === "string" && written.trim() !== contact.email && written.trim() !== was) {
    const meanwhile = was !== contact.email;
    const problem = meanwhile
      ? `${changedMeanwhile(contact.email)}.`
      : await saveAddress(context, contact.id, written);
    seen.email = (await contactOf(context, params.contact)).email;
    if (problem) return data({ problems: { email: problem }, problem, cells: null, seen }, 400);
  }
  const { data: answer, init } = await saveValues(context, contact.id, form);
  return data({ ...answer, seen: { ...answer.seen, ...seen } }, init ?? undefined);
}

/** Gives a person another address; what is wrong with it, or null. */
async function saveAddress(
  context: Route.ActionArgs["context"],
  id: number,
  written: string,
): Promise<string | null> {
  const { sql } = at(context);
  const address = readAddress(written);
  if (!address) return "This is not a mail address.";
  const known = await contactByAddress(sql, address);
  if (known && known.id !== id) return "Somebody else has this address.";
  await changeAddress(sql, id, address);
  return null;
}

export default function Contact({ loaderData, actionData }: Route.ComponentProps) {
  const { fields, cells, lists, timeline, consents, zone } = loaderData;
  const busy = useNavigation().state === "submitting";
  const problems: Record<string, string> = actionData?.problems ?? {};
  return (
    <Page wide>
      <PageTitle
        title={loaderData.name}
        about={
          <span className="flex items-center gap-2">
            {loaderData.email} · added {dayAndYear(loaderData.added)}
            {loaderData.heldBack && <Chip tone="wrong">{loaderData.heldBack}</Chip>}
          </span>
        }
      />
      <div className="grid grid-cols-[1fr_420px] gap-14 max-md:grid-cols-[minmax(0,1fr)] max-md:gap-8">
        <section aria-label="What is known">
          <Form method="post" className="grid grid-cols-2 gap-x-6 gap-y-3">
            <Seen
              key={loaderData.id}
              shown={{ ...cells, email: loaderData.email }}
              fields={["email", ...fields.map((field) => field.id)]}
              seen={actionData?.seen ?? null}
            />
            <Field
              label="Email address"
              errors={problems.email ? [problems.email] : null}
              className="col-span-2"
            >
              {(own) => (
                <input
                  {...own}
                  name="email"
                  type="email"
                  defaultValue={loaderData.email}
                  className={INPUT}
                />
              )}
            </Field>
            {fields.map((field) => (
              <Field
                key={field.id}
                label={`${field.label} · ${kindOf(field).label.toLowerCase()}`}
                errors={problems[field.id] ? [problems[field.id]!] : null}
              >
                {(own) => (
                  <FieldInput
                    {...own}
                    field={field}
                    name={`f.${field.id}`}
                    value={cells[field.id] ?? ""}
                  />
                )}
              </Field>
            ))}
            <div className="col-span-2 flex items-center gap-3 pt-1">
              <Button type="submit" name="do" value="save" primary disabled={busy}>
                Save
              </Button>
              <span role="status" className="text-leaf">
                {actionData && Object.keys(problems).length === 0 && !busy ? "Saved." : ""}
              </span>
            </div>
          </Form>
          <h2 className="mt-8 mb-1 text-head">Lists</h2>
          {lists.length === 0 && <p className="text-ink-3">On no list.</p>}
          <ul>
            {lists.map((list) => (
              <li key={list.id} className="border-b py-1.5">
                {list.name}
              </li>
            ))}
          </ul>
          <h2 className="mt-8 mb-1 text-head">Consent</h2>
          {consents.length === 0 && (
            <p className="text-ink-3">Nothing is on record: they came by hand or by a file.</p>
          )}
          <ul>
            {consents.map((consent) => (
              <li key={`${consent.at.getTime()}${consent.topic}`} className="border-b py-1.5">
                <span className={consent.given ? "text-leaf" : "text-rust"}>
                  {consent.given ? "Yes" : "No"}
                </span>{" "}
                to “{consent.wording}”
                <span className="block text-small text-ink-3">
                  {dated(consent.at, zone)} · {consent.source}
                </span>
              </li>
            ))}
          </ul>
          <p className="mt-2">
            <Link to={loaderData.preferences} className="link" reloadDocument>
              Their preference page
            </Link>
          </p>
          <details className="mt-8 border-t pt-3">
            <summary className="cursor-pointer font-display text-title">
              Their data: a copy, or erase it
            </summary>
            <p className="mt-2">
              <Link
                to={`/people/contacts/${loaderData.id}/data.json`}
                className="link"
                reloadDocument
              >
                Download a copy of everything known
              </Link>
            </p>
            <Form method="post" className="mt-3 flex items-end gap-2">
              <Field
                label="To erase this person, write their address"
                errors={problems.erase ? [problems.erase] : null}
                hint="What happened stays in the counts, without them. This cannot be undone."
                className="w-80"
              >
                {(own) => <input {...own} name="email" autoComplete="off" className={INPUT} />}
              </Field>
              <Button type="submit" name="do" value="erase" className="mb-5">
                Erase
              </Button>
            </Form>
          </details>
        </section>
        <section aria-label="What happened">
          <h2 className="mb-1 text-head">What happened</h2>
          <Timeline entries={timeline} zone={zone} />
        </section>
      </div>
    </Page>
  );
}
