/**
 * The page of an answer. Following it counts nothing: scanners follow everything. The page itself says so once it has
 * been seen for a second; where no scripts run, a person does.
 */
import { useEffect, useRef } from "react";
import { data, useFetcher } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { phrases } from "#core/phrases/index.ts";
import { answeringAt } from "#server/campaigns/answers.ts";
import { servicesContext } from "#server/http/context.ts";
import { signalOf } from "#server/http/signal.ts";
import { writeAnswer, writeWords } from "#server/store/answers.ts";
import { recordReading } from "#server/store/reading.ts";
import { submissionOf } from "../form.ts";
import { ReaderPage, readerOfPage } from "../reader-page.tsx";
import { Button } from "../ui/button.tsx";
import { INPUT } from "../ui/field.tsx";
import type { Route } from "./+types/reader.answer.ts";

export const meta = ({ loaderData }: Route.MetaArgs) => [{ title: loaderData?.asks ?? "" }];

async function asked({ params, context }: Pick<Route.LoaderArgs, "params" | "context">) {
  const found = await answeringAt(context.get(servicesContext), params.token, params.answer);
  if (!found) throw data(phrases("en").incomplete, { status: 404 });
  return found;
}

export async function loader(args: Route.LoaderArgs) {
  const { question, chosen } = await asked(args);
  const { page, language } = await readerOfPage(args.context, args.params.token);
  return {
    ...{ page, language },
    asks: question.asks,
    answer: question.answers[chosen]!.words,
    thanks: question.thanks,
    wantsWords: question.wantsWords,
    others: question.answers.filter((_, i) => i !== chosen),
    token: args.params.token,
  };
}

const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("count") }),
  z.object({
    do: z.literal("words"),
    words: z.string().trim().max(LIMITS.answerWords).default(""),
  }),
]);

export async function action(args: Route.ActionArgs) {
  const submission = await submissionOf(args.request, schema);
  if (submission.status !== "success") return data({ done: null }, 400);
  const { written, chosen, recipient } = await asked(args);
  const { database, clock } = args.context.get(servicesContext);
  const { value } = submission;
  if (recipient) {
    const now = clock.now();
    const answer = {
      recipient,
      block: written.id,
      asks: written.asks,
      answers: written.answers.map(({ words }) => words),
      answer: written.answers[chosen]!.words,
    };
    await database.tx(async (sql) => {
      // Whoever answers has clicked.
      if (await writeAnswer(sql, answer, now)) {
        await recordReading(sql, "clicked", recipient, now, signalOf(args.request));
      }
      if (value.do === "words") await writeWords(sql, recipient, written.id, value.words);
    });
  }
  return { done: value.do };
}

/** How long the page is seen before the answer counts, ms. */
const SEEN_MS = 1_000;

export default function Answer({ loaderData }: Route.ComponentProps) {
  const { page, language, asks, answer, thanks, wantsWords, others, token } = loaderData;
  const say = phrases(language);
  const count = useFetcher<typeof action>();
  const words = useFetcher<typeof action>();
  const sent = useRef("");
  const { submit } = count;
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const look = () => {
      clearTimeout(timer);
      if (document.visibilityState !== "visible" || sent.current === answer) return;
      timer = setTimeout(() => {
        sent.current = answer;
        void submit({ do: "count" }, { method: "post" });
      }, SEEN_MS);
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      clearTimeout(timer);
      document.removeEventListener("visibilitychange", look);
    };
  }, [answer, submit]);
  const counted = count.data?.done === "count";
  return (
    <ReaderPage page={page} language={language} title={asks}>
      <p className="mt-3 text-lead">
        {say.yourAnswer} <strong>{answer}</strong>
      </p>
      <p role="status" className="mt-2 mb-5 min-h-6 text-ink-2">
        {counted ? thanks : ""}
      </p>
      {!counted && (
        <noscript>
          <form method="post" className="mb-5">
            <button type="submit" name="do" value="count" className="link">
              {say.answerCount}
            </button>
          </form>
        </noscript>
      )}
      {wantsWords && counted && words.data?.done !== "words" && (
        <words.Form method="post" className="mb-6 flex flex-col items-start gap-2">
          <label className="w-full text-small text-ink-2">
            {say.answerWords}
            <textarea
              name="words"
              rows={4}
              maxLength={LIMITS.answerWords}
              className={`${INPUT} mt-1`}
            />
          </label>
          <Button type="submit" name="do" value="words" disabled={words.state !== "idle"}>
            {say.answerSend}
          </Button>
        </words.Form>
      )}
      {words.data?.done === "words" && <p className="mb-6">{say.answerSaid}</p>}
      <p className="text-small text-ink-2">{say.answerOther}</p>
      <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        {others.map(({ id, words: other }) => (
          <li key={id}>
            <a className="link" href={`/q/${token}/${id}`}>
              {other}
            </a>
          </li>
        ))}
      </ul>
    </ReaderPage>
  );
}
