/** What a test send is asked with. */
import { z } from "zod";
import { MAIL_ADDRESS } from "#core/fields/address.ts";
import { LIMITS } from "#core/limits.ts";

/** Addresses apart by commas, blanks or lines; each one that is wrong is named. */
export const addressesSchema = z.string("Write at least one address.").transform((text, ctx) => {
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
});

/** As whom a test is filled in: the reader who is looked at, readers that were picked, each of the smallest set, or one of every version. */
export const AS_WHOM = ["reader", "picked", "smallest", "all"] as const;

/** Ids of readers, apart by commas. */
const pickedSchema = z
  .string()
  .regex(/^\d{1,15}(,\d{1,15})*$/)
  .transform((list) => [...new Set(list.split(",").map(Number))])
  .pipe(z.array(z.number()).max(LIMITS.testReaders, `At most ${LIMITS.testReaders} readers.`));

export const testSchema = z.object({
  to: addressesSchema,
  reader: z.coerce.number().int().optional(),
  whom: z.enum(AS_WHOM).default("reader"),
  picked: pickedSchema.optional(),
  note: z.string().max(LIMITS.testNote, `At most ${LIMITS.testNote} letters.`).default(""),
  table: z.coerce.boolean().default(false),
});

export const groupSchema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("keep"),
    name: z.string().trim().min(1, "Give it a name.").max(60, "At most 60 letters."),
    addresses: addressesSchema.refine((all) => all.length > 0, "Write at least one address."),
  }),
  z.object({ do: z.literal("remove"), name: z.string().max(60) }),
]);
