/**
 * Unsubscribing. The page asks once, so that a mail scanner following links takes nobody off; a mail
 * program's one-click POST (RFC 8058) needs no page.
 */
import { Link } from "react-router";
import { phrases } from "#core/phrases/index.ts";
import { pagePhrases } from "#core/phrases/pages.ts";
import { leave } from "#server/audience/leaving.ts";
import { servicesContext } from "#server/http/context.ts";
import { getTopics } from "#server/store/topics.ts";
import { ReaderPage, readerOfPage } from "../reader-page.tsx";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import type { Route } from "./+types/reader.unsubscribe.ts";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: phrases(loaderData?.language ?? "en").unsubscribe },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { page, language, email, contact } = await readerOfPage(context, params.token);
  const topics = await getTopics(context.get(servicesContext).database.sql);
  return { page, language, email, choices: contact !== null && topics.length > 0 };
}

export async function action({ params, context }: Route.ActionArgs) {
  const { recipient, contact, email, language } = await readerOfPage(context, params.token);
  if (email) {
    const { database, clock } = context.get(servicesContext);
    const at = clock.now();
    const wording = phrases(language).unsubscribe;
    const leaving = { email, contactId: contact, recipient, source: "unsubscribe page", wording };
    await database.tx((sql) => leave(sql, leaving, at));
  }
  return { done: true };
}

export default function Unsubscribe({ loaderData, actionData, params }: Route.ComponentProps) {
  const { page, language, email, choices } = loaderData;
  const say = pagePhrases(language, page.words);
  return (
    <ReaderPage
      page={page}
      language={language}
      title={actionData ? say.unsubscribed : say.unsubscribeAsk}
    >
      <p className="mt-3 mb-5 text-lead text-ink-2">
        {email ? say.noMore(email) : actionData ? say.testTakenOff : say.testNobody}
      </p>
      {!actionData && (
        <Form method="post">
          <Button type="submit" primary>
            {say.unsubscribe}
          </Button>
        </Form>
      )}
      {choices && (
        <p className="mt-5">
          <Link to={`/p/${params.token}`} className="link">
            {say.changeInstead}
          </Link>
        </p>
      )}
    </ReaderPage>
  );
}
