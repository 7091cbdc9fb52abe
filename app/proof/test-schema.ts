/** What a test send is asked with. */
import { z } from "zod";
import { MAIL_ADDRESS } from "#core/fields/address.ts";
import { LIMITS } from "#core/limits.ts";

/** Addresses apart by commas, blanks or lines; each one that is wrong is named. */
export const testSchema = z.object({
  to: z.string("Write at least one address.").transform((text, ctx) => {
    const addresses = [...new Set(text.split(/[\s,;]+/).filter(Boolean))];
    const wrong = addresses.filter((a) => !MAIL_ADDRESS.test(a) || a.length > LIMITS.addressLength);
    if (wrong.length > 0) {
      const message = `${wrong.map((a) => `“${a}”`).join(", ")} ${wrong.length === 1 ? "is not a mail address" : "are not mail addresses"}.`;
      ctx.addIssue({ code: "custom", message });
    } else if (addresses.length > LIMITS.testAddresses) {
      ctx.addIssue({
        code: "custom",
        message: `At most ${LIMITS.testAddresses} addresses at once.`,
      });
    }
    return addresses;
  }),
  reader: z.coerce.number().int().optional(),
});
