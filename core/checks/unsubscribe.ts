import type { Check } from "./check.ts";

/** Every marketing email needs a way out that works (RFC 8058 asks for one in the body as well). */
export const unsubscribe: Check = {
  id: "unsubscribe",
  run({ compiled }) {
    if (compiled.links.some((link) => link.to.kind === "unsubscribe")) return [];
    return [
      {
        check: "unsubscribe",
        severity: "stop",
        message: "There is no unsubscribe link",
        detail: "Add a footer, or switch its unsubscribe link on.",
        at: "email",
      },
    ];
  },
};
