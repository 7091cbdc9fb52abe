/** What somebody answers when they follow an answer of an email. */
import { type AskedQuestion, questionOf, questionsIn } from "#core/blocks/question.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { inLanguage, languageOf } from "#core/languages/index.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { answersGiven, questionId, wordsGiven } from "../store/answers.ts";
import { getCampaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import type { Launch } from "../store/launches/freeze.ts";
import { getRecipient, type Recipient } from "../store/launches/progress.ts";
import { eachVariant } from "../store/launches/variants.ts";
import { readyFor } from "./emails.ts";

export interface Answering {
  /** As its reader is asked. */
  readonly question: AskedQuestion;
  /** As it is written, by which it is counted in all languages. */
  readonly written: AskedQuestion;
  /** The answer that was followed, by its place. */
  readonly chosen: number;
  /** Null for a test: nothing is counted. */
  readonly recipient: Recipient | null;
}

function answering(
  doc: EmailDocument,
  values: Recipient["values"],
  node: string,
  recipient: Recipient | null,
): Answering | null {
  const written = questionOf(doc, node);
  const question = questionOf(inLanguage(doc, languageOf(doc, values)), node);
  if (!written || !question) return null;
  return {
    written,
    question,
    chosen: written.answers.findIndex(({ id }) => id === node),
    recipient,
  };
}

/** What an address of an answer asks, by its token and the answer's node; null where there is no such thing. */
export async function answeringAt(
  { database: { sql }, signer }: Pick<Services, "database" | "signer">,
  text: string,
  node: string,
): Promise<Answering | null> {
  const token = signer.read(text);
  if (token?.kind === "message") {
    const recipient = await getRecipient(sql, token.recipient);
    const launch = recipient && (await readyFor(sql, recipient, signer));
    return launch && answering(launch.doc, recipient.values, node, recipient);
  }
  if (token?.kind !== "sample") return null;
  const campaign = await getCampaign(sql, token.campaign);
  const stored = campaign && (await loadDocument(sql, campaign.documentId));
  return stored ? answering(stored.doc, {}, node, null) : null;
}

export interface Answered {
  readonly id: string;
  readonly asks: string;
  readonly people: number;
  readonly answers: readonly { readonly words: string; readonly people: number }[];
  readonly said: readonly {
    readonly answer: string;
    readonly words: string;
    readonly email: string | null;
  }[];
}

/** How many words of readers are shown. */
const SAID = 50;

/** What was answered to the questions of a launch, in any of its variants. */
export async function answeredIn(sql: Sql, launch: Launch): Promise<Answered[]> {
  const questions = new Map(
    eachVariant(launch).flatMap(({ doc }) => questionsIn(doc).map((one) => [one.id, one] as const)),
  );
  if (questions.size === 0) return [];
  const given = await answersGiven(sql, launch.id);
  const said = await wordsGiven(sql, launch.id, SAID);
  return [...questions.values()].map(({ id, asks, answers }) => {
    const item = questionId(launch.campaignId, id);
    const own = given.filter((one) => one.item === item);
    const people = (words: string) => own.find(({ answer }) => answer === words)?.people ?? 0;
    return {
      ...{ id, asks },
      people: own.reduce((sum, one) => sum + one.people, 0),
      answers: answers.map(({ words }) => ({ words, people: people(words) })),
      said: said.filter((one) => one.item === item),
    };
  });
}
