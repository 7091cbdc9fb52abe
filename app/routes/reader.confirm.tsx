/** The second step of signing up. The page asks, so that a scanner that follows links signs nobody up. */
import { data } from "react-router";
import { phrases } from "#core/phrases/index.ts";
import { pagePhrases } from "#core/phrases/pages.ts";
import { confirmJoin } from "#server/audience/signing-up.ts";
import { servicesContext } from "#server/http/context.ts";
import { getForm, pendingSignup } from "#server/store/signups.ts";
import { pageLook, ReaderPage } from "../reader-page.tsx";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import type { Route } from "./+types/reader.confirm.ts";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: phrases(loaderData?.language ?? "en").confirmAsk },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { database, clock } = context.get(servicesContext);
  const { sql } = database;
  const signup = await pendingSignup(sql, params.token, clock.now());
  const form = signup && (await getForm(sql, signup.form));
  const language = form?.language ?? ("en" as const);
  return {
    ...{ page: await pageLook(context, language), language },
    wording: signup?.wording ?? null,
  };
}

export async function action({ params, context }: Route.ActionArgs) {
  const services = context.get(servicesContext);
  const { sql } = services.database;
  const signup = await pendingSignup(sql, params.token, services.clock.now());
  const form = signup && (await getForm(sql, signup.form));
  const done = await confirmJoin(services, params.token);
  return data({ done, language: form?.language ?? ("en" as const) }, done ? 200 : 410);
}

export default function Confirm({ loaderData, actionData }: Route.ComponentProps) {
  const language = actionData?.language ?? loaderData.language;
  const { page, wording } = loaderData;
  const say = pagePhrases(language, page.words);
  if (actionData?.done) {
    return (
      <ReaderPage page={page} language={language} title={say.confirmed}>
        <p className="mt-3 text-lead text-ink-2">{say.confirmedWords}</p>
      </ReaderPage>
    );
  }
  return (
    <ReaderPage page={page} language={language} title={say.confirmAsk}>
      <p className="mt-3 mb-5 text-lead text-ink-2">{wording ?? say.confirmGone}</p>
      {wording !== null && (
        <Form method="post">
          <Button type="submit" primary>
            {say.confirmButton}
          </Button>
        </Form>
      )}
    </ReaderPage>
  );
}
