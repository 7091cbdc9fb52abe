/** The page on which a reader chooses what to get, in the reader's language. */
import { data } from "react-router";
import { phrases } from "#core/phrases/index.ts";
import { pagePhrases } from "#core/phrases/pages.ts";
import { leave } from "#server/audience/leaving.ts";
import { servicesContext } from "#server/http/context.ts";
import { getContact } from "#server/store/contacts.ts";
import { isUncounted, setUncounted } from "#server/store/reading.ts";
import { release } from "#server/store/suppressions.ts";
import {
  chooseTopics,
  getTopics,
  inLanguage,
  leftTopics,
  recordConsent,
} from "#server/store/topics.ts";
import { sentForm } from "../form.ts";
import { ReaderPage, readerOfPage } from "../reader-page.tsx";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Form } from "../ui/form.tsx";
import type { Route } from "./+types/reader.preferences.ts";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: phrases(loaderData?.language ?? "en").preferences },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { page, language, contact, email } = await readerOfPage(context, params.token);
  const { sql } = context.get(servicesContext).database;
  const left = contact === null ? new Set<string>() : await leftTopics(sql, contact);
  const person = contact === null ? null : await getContact(sql, contact);
  return {
    page,
    language,
    email,
    uncounted: await isUncounted(sql, contact),
    leftAll: person?.heldBack === "unsubscribed",
    topics: (await getTopics(sql)).map(({ id, name, about }) => ({
      id,
      name: inLanguage(name, language),
      about: inLanguage(about, language),
      wanted: !left.has(id),
    })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { contact, email, language, recipient } = await readerOfPage(context, params.token);
  const form = await sentForm(request);
  if (contact === null || email === null) return data({ saved: true });
  const { database, clock } = context.get(servicesContext);
  const at = clock.now();
  const source = "preference page";
  const say = phrases(language);
  await database.tx(async (sql) => {
    if (form.get("do") === "leave") {
      const wording = say.nothingAtAll;
      await leave(sql, { email, contactId: contact, recipient, source, wording }, at);
      return;
    }
    if (form.get("do") === "back") {
      // Only the reader's own leaving is taken back: bounces and blocks stay.
      await release(sql, email, ["unsubscribed"]);
      await recordConsent(sql, contact, {
        given: true,
        topic: null,
        source,
        wording: say.back,
        at,
      });
      return;
    }
    await setUncounted(sql, contact, form.get("uncounted") === "on");
    const wanted = new Set(form.getAll("topic").map(String));
    await chooseTopics(sql, contact, wanted, { source, language, at });
  });
  return data({ saved: true });
}

export default function Preferences({ loaderData, actionData }: Route.ComponentProps) {
  const { page, language, email, topics, leftAll, uncounted } = loaderData;
  const say = pagePhrases(language, page.words);
  return (
    <ReaderPage page={page} language={language} title={say.preferences}>
      <p className="mt-3 text-lead text-ink-2">
        {email ? say.preferencesFor(email) : say.testNobody}
      </p>
      <p role="status" className="mt-2 font-semibold text-leaf">
        {actionData?.saved ? say.saved : ""}
      </p>
      <Form method="post" className="mt-4">
        {leftAll ? (
          <>
            <p className="mb-4 text-lead">{say.leftAll}</p>
            <Button type="submit" name="do" value="back" primary>
              {say.back}
            </Button>
          </>
        ) : (
          <>
            <fieldset>
              <legend className="mb-1 font-display text-title">{say.topicsLabel}</legend>
              {topics.map((topic) => (
                <label key={topic.id} className="flex gap-3 border-b py-2.5 text-lead">
                  <input
                    type="checkbox"
                    name="topic"
                    value={topic.id}
                    defaultChecked={topic.wanted}
                    className="mt-1 size-4 accent-plum"
                  />
                  <span>
                    <span className="font-semibold">{topic.name}</span>
                    {topic.about && (
                      <span className="block text-body text-ink-2">{topic.about}</span>
                    )}
                  </span>
                </label>
              ))}
            </fieldset>
            <Checkbox
              large
              name="uncounted"
              defaultChecked={uncounted}
              label={say.uncounted}
              className="mt-5"
            />
            <div className="mt-5 flex items-center gap-4">
              <Button type="submit" name="do" value="save" primary>
                {say.save}
              </Button>
              <Button type="submit" name="do" value="leave">
                {say.nothingAtAll}
              </Button>
            </div>
          </>
        )}
      </Form>
    </ReaderPage>
  );
}
