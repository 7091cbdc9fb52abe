/** Asks the writing helper; a lost connection gives null. */
import type { SubjectAdvice, TextAdvice } from "#core/writing/helper.ts";
import type { WritingQuestion } from "../wire.ts";

export async function askHelper<Q extends WritingQuestion>(
  campaign: string,
  question: Q,
): Promise<(Q["about"] extends "text" ? TextAdvice : SubjectAdvice) | null> {
  const response = await fetch(`/campaigns/${campaign}/writing`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(question),
  }).catch(() => null);
  return response?.ok ? await response.json() : null;
}
