/** Asks the writing helper; a lost connection gives null. */
import type { SubjectAdvice, TextAdvice } from "#core/writing/helper.ts";
import { createRemote } from "../session/remote.ts";
import type { WritingQuestion } from "../wire.ts";

export async function askHelper<Q extends WritingQuestion>(
  campaign: string,
  question: Q,
): Promise<(Q["about"] extends "text" ? TextAdvice : SubjectAdvice) | null> {
  type Advice = Q["about"] extends "text" ? TextAdvice : SubjectAdvice;
  const answer = await createRemote(campaign).tell<Advice>("writing", question);
  return answer?.ok ? answer.body : null;
}
