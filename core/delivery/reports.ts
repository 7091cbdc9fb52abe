/** What comes back after a message was taken: reports of failed delivery (RFC 3464) and of complaints (RFC 5965). */
import { judge, type Verdict } from "./outcomes.ts";
import { type Reply, readReply } from "./reply.ts";

type Fields = ReadonlyMap<string, string>;

/** Groups of fields with empty lines between them, as both kinds of report have; names in small letters. */
function groupsOf(text: string): Fields[] {
  return text
    .replace(/\r\n?/g, "\n")
    .replace(/\n[ \t]+/g, " ")
    .split(/\n[ \t]*\n/)
    .map(
      (group) =>
        new Map(
          group.split("\n").flatMap((line) => {
            const colon = line.indexOf(":");
            if (colon <= 0) return [];
            return [[line.slice(0, colon).trim().toLowerCase(), line.slice(colon + 1).trim()]];
          }),
        ),
    );
}

export interface Failure {
  readonly verdict: Verdict;
  /** In the words of the service that gave up. */
  readonly reply: string;
}

/** A reply by the status of a report alone (RFC 3463). */
function replyOf(status: string, words: string): Reply | null {
  const code = /^([245])\.\d{1,3}\.\d{1,3}$/.exec(status)?.[1];
  return code ? { code: Number(`${code}50`), enhanced: status, text: words } : null;
}

/** Of a delivery-status part: what it says of a delivery that has failed for good; null where none has. */
export function failureIn(text: string): Failure | null {
  for (const fields of groupsOf(text)) {
    if (fields.get("action")?.toLowerCase() !== "failed") continue;
    const status = fields.get("status")?.split(" ")[0] ?? "";
    const words = (fields.get("diagnostic-code") ?? "").replace(/^[^;]*;\s*/, "");
    const reply = readReply(words) ?? replyOf(status, words);
    // As it would have been judged had it been said at once; what says nothing is about nobody.
    const verdict = reply
      ? judge("reader", reply)
      : { kind: "service" as const, lasting: true, gone: false };
    return { verdict, reply: words || status || "It could not be delivered." };
  }
  return null;
}

/** Whether a feedback report says that its reader has called a message spam. */
export const isComplaint = (text: string): boolean =>
  groupsOf(text).some((fields) =>
    ["abuse", "fraud", "virus"].includes(fields.get("feedback-type")?.toLowerCase() ?? ""),
  );
