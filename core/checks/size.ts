import { LIMITS } from "../limits.ts";
import { htmlBytes, kilobytes } from "../merge/index.ts";
import type { Check } from "./check.ts";

/** Some webmail shows so much of an email and cuts off the rest, the unsubscribe link with it. */
export const size: Check = {
  id: "size",
  run({ compiled }) {
    const bytes = htmlBytes(compiled);
    if (bytes <= LIMITS.htmlBytes) return [];
    return [
      {
        check: "size",
        severity: "look",
        message: `The HTML is too large: ${kilobytes(bytes)} KB`,
        detail: `Some webmail shows ${kilobytes(LIMITS.htmlBytes)} KB and cuts off the rest. Take something out.`,
        at: "email",
      },
    ];
  },
};
