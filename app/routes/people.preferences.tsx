/** Topics readers can choose, and the forms by which they sign up. */
import { data, Link } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { LANGUAGES, type Language } from "#core/phrases/index.ts";
import type { Sql } from "#server/db/database.ts";
import { required } from "#server/forms.ts";
import { getSchema } from "#server/store/fields.ts";
import { getForms, saveForm } from "#server/store/signups.ts";
import {
  addTopic,
  changeTopic,
  countLeft,
  getTopics,
  inLanguage,
  type Topic,
} from "#server/store/topics.ts";
import { submissionOf } from "../form.ts";
import { signupHtml } from "../people/signup-html.ts";
import { removing } from "../removed.ts";
import { at } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { finderOf } from "../ui/finder.ts";
import { Form } from "../ui/form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { Select } from "../ui/select.tsx";
import { people } from "../ui/words.ts";
import type { Route } from "./+types/people.preferences.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

const LISTS = finderOf("lists");

export const meta = () => [{ title: "Topics and sign-up · Septima" }];

const text = z.string().trim().max(LIMITS.lineLength).default("");
const topicWords = {
  name: z.object({ en: required("Give the topic a name."), fr: text }),
  about: z.object({ en: text, fr: text }),
};
const many = z.union([z.array(z.string()), z.string().transform((one) => [one])]).default([]);
const formWords = {
  name: required("Give the form a name."),
  language: z.enum(LANGUAGES.map(({ code }) => code) as [Language, ...Language[]]),
  list: z.string().default(""),
  title: required("Write the headline."),
  wording: required("Write what people say yes to.", LIMITS.lineLength),
  fields: many,
  topics: many,
};
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("addTopic"), ...topicWords }),
  z.object({ do: z.literal("changeTopic"), topic: z.string(), ...topicWords }),
  z.object({ do: z.literal("removeTopic"), topic: z.string() }),
  z.object({ do: z.literal("addForm"), ...formWords }),
  z.object({ do: z.literal("changeForm"), form: z.string(), ...formWords }),
  z.object({ do: z.literal("removeForm"), form: z.string() }),
]);

export async function loader({ context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const topics = await getTopics(sql);
  const left = await countLeft(sql);
  const { fields } = await getSchema(sql);
  const asked = [...fields.values()].filter(({ type }) => type !== "record");
  const base = services.config.publicAddress;
  return {
    topics: topics.map((topic) => ({ ...topic, left: left.get(topic.id) ?? 0 })),
    fields: asked.map(({ id, label }) => ({ id, label })),
    forms: (await getForms(sql)).map((form) => ({
      ...form,
      address: `${base}/join/${form.id}`,
      html: signupHtml(
        `${base}/join/${form.id}`,
        form,
        asked.filter(({ id }) => form.fields.includes(id)),
        topics
          .filter(({ id }) => form.topics.includes(id))
          .map(({ id, name }) => ({ id, name: inLanguage(name, form.language) })),
      ),
    })),
  };
}

const HERE = "/people/preferences";

const topicLabel = async (sql: Sql, id: string) => {
  const topic = (await getTopics(sql)).find((one) => one.id === id);
  return topic ? `The topic “${inLanguage(topic.name, "en")}”` : "The topic";
};
const formLabel = async (sql: Sql, id: string) => {
  const form = (await getForms(sql)).find((one) => one.id === id);
  return form ? `The form “${form.name}”` : "The form";
};

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, now } = at(context);
  const asked = submission.value;
  switch (asked.do) {
    case "removeTopic":
      return removing(context, "topics", asked.topic, await topicLabel(sql, asked.topic), HERE);
    case "removeForm":
      return removing(context, "signup_forms", asked.form, await formLabel(sql, asked.form), HERE);
    case "addTopic":
    case "changeTopic": {
      const { name, about } = asked;
      if (asked.do === "changeTopic") await changeTopic(sql, asked.topic, name, about);
      else if ((await getTopics(sql)).length >= LIMITS.topics) {
        return data(submission.reply({ formErrors: [`At most ${LIMITS.topics} topics.`] }), 409);
      } else await addTopic(sql, name, about, now);
      break;
    }
    default: {
      const { name, language, title, wording, fields, topics } = asked;
      const list = asked.list || null;
      const id = asked.do === "changeForm" ? asked.form : null;
      await saveForm(sql, id, { name, language, list, title, wording, fields, topics }, now);
    }
  }
  return data(submission.reply({ resetForm: true }));
}

type Loaded = Route.ComponentProps["loaderData"];
type Errors = Record<string, string[]>;

function Input(props: {
  label: string;
  name: string;
  value?: string;
  errors: Errors;
  lang?: string;
}) {
  return (
    <Field label={props.label} errors={props.errors[props.name]}>
      {(own) => (
        <input
          {...own}
          name={props.name}
          defaultValue={props.value}
          lang={props.lang}
          className={INPUT}
        />
      )}
    </Field>
  );
}

function TopicForm({ topic, errors }: { topic: Topic | null; errors: Errors }) {
  return (
    <Form method="post" className="grid grid-cols-2 gap-3 pb-4">
      {topic && <input type="hidden" name="topic" value={topic.id} />}
      {LANGUAGES.map(({ code, name }) => (
        <div key={code} className="flex flex-col gap-3">
          <Input
            label={`Name · ${name}`}
            name={`name.${code}`}
            value={topic?.name[code]}
            errors={errors}
            lang={code}
          />
          <Input
            label={`What it is about · ${name}`}
            name={`about.${code}`}
            value={topic?.about[code]}
            errors={errors}
            lang={code}
          />
        </div>
      ))}
      <div className="col-span-2 flex gap-2">
        <Button type="submit" name="do" value={topic ? "changeTopic" : "addTopic"} primary>
          {topic ? "Save" : "Add the topic"}
        </Button>
        {topic && (
          <Button type="submit" name="do" value="removeTopic">
            Delete
          </Button>
        )}
      </div>
    </Form>
  );
}

function Ticks({
  label,
  name,
  options,
  chosen,
}: {
  label: string;
  name: string;
  options: readonly { id: string; label: string }[];
  chosen: readonly string[];
}) {
  if (options.length === 0) return null;
  return (
    <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
      <legend className="mb-1 text-small text-ink-2">{label}</legend>
      {options.map((option) => (
        <Checkbox
          key={option.id}
          label={option.label}
          name={name}
          value={option.id}
          defaultChecked={chosen.includes(option.id)}
        />
      ))}
    </fieldset>
  );
}

function SignupFormEditor({
  form,
  loaded,
  errors,
}: {
  form: Loaded["forms"][number] | null;
  loaded: Loaded;
  errors: Errors;
}) {
  return (
    <Form method="post" className="flex flex-col gap-3 pb-4">
      {form && <input type="hidden" name="form" value={form.id} />}
      <div className="grid grid-cols-3 gap-3">
        <Input label="Name, for the team" name="name" value={form?.name} errors={errors} />
        <Field label="Language">
          {(own) => (
            <Select
              {...own}
              name="language"
              initial={form?.language ?? LANGUAGES[0]!.code}
              options={LANGUAGES.map(({ code, name }) => ({ value: code, label: name }))}
            />
          )}
        </Field>
        <Field label="Puts people on">
          {(own) => (
            <Select
              {...own}
              name="list"
              initial={form?.list ?? ""}
              none="no list"
              options={[]}
              finder={LISTS}
            />
          )}
        </Field>
      </div>
      <Input label="Headline" name="title" value={form?.title} errors={errors} />
      <Input
        label="What people say yes to; kept with every sign-up"
        name="wording"
        value={form?.wording}
        errors={errors}
      />
      <Ticks label="Asks for" name="fields" options={loaded.fields} chosen={form?.fields ?? []} />
      <Ticks
        label="Offers the topics"
        name="topics"
        options={loaded.topics.map(({ id, name }) => ({ id, label: inLanguage(name, "en") }))}
        chosen={form?.topics ?? []}
      />
      {form && (
        <>
          <p>
            As a page:{" "}
            <Link to={form.address} className="link" reloadDocument>
              {form.address}
            </Link>
          </p>
          <Field label="As HTML for another site">
            {(own) => (
              <textarea
                {...own}
                readOnly
                rows={5}
                value={form.html}
                className={`${INPUT} font-mono text-small`}
              />
            )}
          </Field>
        </>
      )}
      <div className="flex gap-2">
        <Button type="submit" name="do" value={form ? "changeForm" : "addForm"} primary>
          {form ? "Save" : "Add the form"}
        </Button>
        {form && (
          <Button type="submit" name="do" value="removeForm">
            Delete
          </Button>
        )}
      </div>
    </Form>
  );
}

export default function Preferences({ loaderData, actionData }: Route.ComponentProps) {
  const { topics, forms } = loaderData;
  const errors = (actionData?.error ?? {}) as Errors;
  const sent = (actionData?.initialValue ?? {}) as { do?: string; topic?: string; form?: string };
  const of = (kind: string, key: string, id: string | undefined): Errors =>
    String(sent.do).endsWith(kind) && sent[key as "topic"] === id ? errors : {};
  return (
    <Page wide>
      <PageTitle
        title="Topics and sign-up"
        about="What readers can choose to get, and how they come to you. Every yes and no is kept with its time, words and place."
      />
      <FormErrors errors={errors[""]} />
      <div className="grid grid-cols-2 gap-14">
        <section aria-label="Topics">
          <h2 className="mb-2 text-head">Topics</h2>
          {topics.map((topic) => (
            <details key={topic.id} className="mb-2 border-b">
              <summary className="flex cursor-pointer items-baseline justify-between py-2">
                <span className="font-semibold">{inLanguage(topic.name, "en")}</span>
                <span className="text-small text-ink-3">left by {people(topic.left)}</span>
              </summary>
              <TopicForm topic={topic} errors={of("Topic", "topic", topic.id)} />
            </details>
          ))}
          <h3 className="mt-5 mb-2 text-title">A new topic</h3>
          <TopicForm key={topics.length} topic={null} errors={of("Topic", "topic", undefined)} />
        </section>
        <section aria-label="Sign-up forms">
          <h2 className="mb-2 text-head">Sign-up forms</h2>
          {forms.map((form) => (
            <details key={form.id} className="mb-2 border-b">
              <summary className="flex cursor-pointer items-baseline justify-between py-2">
                <span className="font-semibold">{form.name}</span>
                <span className="text-small text-ink-3">{form.title}</span>
              </summary>
              <SignupFormEditor
                form={form}
                loaded={loaderData}
                errors={of("Form", "form", form.id)}
              />
            </details>
          ))}
          <h3 className="mt-5 mb-2 text-title">A new form</h3>
          <SignupFormEditor
            key={forms.length}
            form={null}
            loaded={loaderData}
            errors={of("Form", "form", undefined)}
          />
        </section>
      </div>
    </Page>
  );
}
