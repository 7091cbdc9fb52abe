/** A sign-up form as a page; forms embedded in other sites send here too. */
import { data } from "react-router";
import { readAddress } from "#core/fields/index.ts";
import { phrases } from "#core/phrases/index.ts";
import { pagePhrases } from "#core/phrases/pages.ts";
import { readValues, recordBook } from "#server/audience/field-values.ts";
import { askToJoin } from "#server/audience/signing-up.ts";
import { servicesContext } from "#server/http/context.ts";
import { getSchema } from "#server/store/fields.ts";
import { getForm } from "#server/store/signups.ts";
import { getTopics, inLanguage } from "#server/store/topics.ts";
import { sentForm } from "../form.ts";
import { FieldInput } from "../people/field-input.tsx";
import { writtenIn } from "../people/save-values.ts";
import { HONEYPOT } from "../people/signup-html.ts";
import { pageLook, ReaderPage } from "../reader-page.tsx";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import type { Route } from "./+types/reader.join.ts";

export const meta = ({ loaderData }: Route.MetaArgs) => [{ title: loaderData?.title ?? "" }];

async function formOf(context: Route.LoaderArgs["context"], id: string) {
  const form = await getForm(context.get(servicesContext).database.sql, id);
  if (!form) throw data(phrases("en").incomplete, { status: 404 });
  return form;
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const form = await formOf(context, params.form);
  const { sql } = context.get(servicesContext).database;
  const { fields } = await getSchema(sql);
  return {
    title: form.title,
    wording: form.wording,
    language: form.language,
    page: await pageLook(context, form.language),
    // Records are of the team's own; nobody outside chooses among them.
    fields: form.fields.flatMap((id) => {
      const field = fields.get(id);
      return field && field.type !== "record" ? [field] : [];
    }),
    topics: (await getTopics(sql))
      .filter(({ id }) => form.topics.includes(id))
      .map(({ id, name }) => ({ id, name: inLanguage(name, form.language) })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const form = await formOf(context, params.form);
  const services = context.get(servicesContext);
  const { sql } = services.database;
  const say = phrases(form.language);
  const sent = await sentForm(request);
  const email = String(sent.get("email") ?? "").trim();
  const wrong = (problems: Record<string, string>) => data({ email, problems, done: false }, 400);
  if (!readAddress(email)) return wrong({ email: say.joinWrong });
  // A field nobody sees: who fills it in is a robot, and is told that all went well.
  if (sent.get(HONEYPOT))
    return data({ email, problems: {} as Record<string, string>, done: true });
  const { fields, tables } = await getSchema(sql);
  const asked = new Map(
    [...fields].filter(([id, field]) => form.fields.includes(id) && field.type !== "record"),
  );
  const written = Object.fromEntries(
    Object.entries(writtenIn(sent)).filter(([id, text]) => asked.has(id) && text !== ""),
  );
  const { values, problems } = readValues(written, asked, await recordBook(sql, asked, tables));
  if (Object.keys(problems).length > 0) return wrong(problems);
  const known = new Set((await getTopics(sql)).map(({ id }) => id));
  const topics = sent
    .getAll("topic")
    .map(String)
    .filter((id) => known.has(id) && form.topics.includes(id));
  await askToJoin(services, form, { email, values, topics });
  return data({ email, problems: {} as Record<string, string>, done: true });
}

export default function Join({ loaderData, actionData }: Route.ComponentProps) {
  const { title, wording, language, page, fields, topics } = loaderData;
  const say = pagePhrases(language, page.words);
  if (actionData?.done) {
    return (
      <ReaderPage page={page} language={language} title={say.joinCheck}>
        <p className="mt-3 text-lead text-ink-2">{say.joinCheckWords(actionData.email)}</p>
      </ReaderPage>
    );
  }
  const problems: Record<string, string> = actionData?.problems ?? {};
  const errorsOf = (id: string) => (problems[id] ? [problems[id]] : null);
  return (
    <ReaderPage page={page} language={language} title={title}>
      <p className="mt-3 mb-5 text-lead text-ink-2">{wording}</p>
      <Form method="post" className="flex flex-col gap-4">
        <Field label={say.joinEmail} errors={errorsOf("email")}>
          {(own) => (
            <input {...own} name="email" type="email" autoComplete="email" className={INPUT} />
          )}
        </Field>
        {fields.map((field) => (
          <Field key={field.id} label={field.label} errors={errorsOf(field.id)}>
            {(own) => <FieldInput {...own} field={field} name={`f.${field.id}`} value="" bare />}
          </Field>
        ))}
        {topics.length > 0 && (
          <fieldset>
            <legend className="mb-1 text-small text-ink-2">{say.topicsLabel}</legend>
            {topics.map((topic) => (
              <Checkbox
                key={topic.id}
                label={topic.name}
                className="py-1"
                name="topic"
                value={topic.id}
                defaultChecked
              />
            ))}
          </fieldset>
        )}
        <div aria-hidden className="absolute -left-[9999px]">
          <input name={HONEYPOT} tabIndex={-1} autoComplete="off" />
        </div>
        <div>
          <Button type="submit" primary>
            {say.joinSend}
          </Button>
        </div>
      </Form>
    </ReaderPage>
  );
}
