import type { Finding, Severity } from "../kinds/kind.ts";
import { isBlank } from "../text/index.ts";
import type { Check } from "./check.ts";

export const subject: Check = {
  id: "subject",
  run({ email }) {
    if (!isBlank(email.envelope.subject)) return [];
    return [
      {
        check: "subject",
        severity: "stop",
        message: "The subject is missing",
        detail: "It is the first thing a reader sees.",
        at: "envelope",
        in: ["envelope", "subject"],
      },
    ];
  },
};

/** Addresses that say by their name that nobody reads them. */
const NOBODY = /^(no|do[-_.]?not)[-_.]?reply/i;

export const sender: Check = {
  id: "sender",
  run({ email: { envelope } }) {
    const found: Finding[] = [];
    const add = (severity: Severity, message: string, detail: string, field: string) =>
      found.push({
        check: "sender",
        severity,
        message,
        detail,
        at: "envelope",
        in: ["envelope", field],
      });
    if (envelope.fromAddress === "") {
      add(
        "stop",
        "There is no address it comes from",
        "Write the from address in the envelope.",
        "fromAddress",
      );
    } else if (isBlank(envelope.fromName)) {
      add(
        "look",
        "There is no name it comes from",
        "Inboxes show the address instead, and few know it.",
        "fromName",
      );
    }
    const answers = envelope.replyTo || envelope.fromAddress;
    if (NOBODY.test(answers)) {
      add(
        "hint",
        "Nobody reads the answers",
        `Replies go to ${answers}: readers who write back get nothing.`,
        "replyTo",
      );
    }
    return found;
  },
};
