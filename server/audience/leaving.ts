/** Leaving: from the page a message leads to, by a mail program's button, or by mail. */
import type { Sql } from "../db/database.ts";
import type { Recipient } from "../store/launches/progress.ts";
import { recordEvent } from "../store/reading.ts";
import { suppress } from "../store/suppressions.ts";
import { recordConsent } from "../store/topics.ts";

export interface Leaving {
  readonly email: string;
  readonly contactId: number | null;
  /** The message they leave by; null where there is none. */
  readonly recipient: Recipient | null;
  readonly source: string;
  /** The words they said it by; none where it was a message. */
  readonly wording?: string;
}

/** Somebody gets nothing from now on. Within a transaction. */
export async function leave(
  sql: Sql,
  { email, contactId, recipient, source, wording = "" }: Leaving,
  at: Date,
): Promise<void> {
  if (recipient) await recordEvent(sql, { kind: "unsubscribed", recipient, at });
  await suppress(sql, email, "unsubscribed", at);
  if (contactId !== null) {
    await recordConsent(sql, contactId, { given: false, topic: null, source, wording, at });
  }
}
