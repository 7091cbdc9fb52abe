/** What a mail service answers, taken apart: a reply code (RFC 5321, 4.2) and an enhanced one (RFC 3463). */

export interface Reply {
  /** Three digits. */
  readonly code: number;
  /** `5.1.1`; null where the service gives none. */
  readonly enhanced: string | null;
  /** Its words, on one line. */
  readonly text: string;
}

const REPLY = /^(\d{3})[ -]?(?:([245]\.\d{1,3}\.\d{1,3})(?=\s|$))?\s*([\s\S]*)$/;

/** Reads the text of a reply, of several lines too; null where it does not begin with a code. */
export function readReply(text: string): Reply | null {
  const found = REPLY.exec(text.trim());
  if (!found) return null;
  const [, code, enhanced, words] = found;
  return {
    code: Number(code),
    enhanced: enhanced ?? null,
    text: words!.replace(/\r?\n(\d{3}[ -])?/g, " ").trim(),
  };
}
