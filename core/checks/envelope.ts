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

export const sender: Check = {
  id: "sender",
  run({ email }) {
    if (email.envelope.fromAddress !== "") return [];
    return [
      {
        check: "sender",
        severity: "stop",
        message: "There is no address it comes from",
        detail: "Write the from address in the envelope.",
        at: "envelope",
        in: ["envelope", "fromAddress"],
      },
    ];
  },
};
