import { LIMITS } from "../limits.ts";
import { prepareBody, unsigned } from "../merge/index.ts";
import type { Check } from "./check.ts";

const kb = (bytes: number) => Math.ceil(bytes / 1024);

/** Some webmail shows so much of an email and cuts off the rest, the unsubscribe link with it. */
export const size: Check = {
  id: "size",
  run({ compiled }) {
    const options = { links: "tracked", marks: false, sign: unsigned } as const;
    const { constantBytes } = prepareBody(compiled.html, compiled, options);
    if (constantBytes <= LIMITS.htmlBytes) return [];
    return [
      {
        check: "size",
        severity: "look",
        message: `The HTML is too large: ${kb(constantBytes)} KB`,
        detail: `Some webmail shows ${kb(LIMITS.htmlBytes)} KB and cuts off the rest. Take something out.`,
        at: "email",
      },
    ];
  },
};
