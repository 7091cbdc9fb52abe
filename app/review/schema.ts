/** What is asked and said around a review. */
import { z } from "zod";
import { MAIL_ADDRESS } from "#core/fields/address.ts";
import { cleanText } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";

/** For how many days a link can be open. */
export const OPEN_DAYS = ["7", "14", "30"] as const;

const nameSchema = z
  .string("Write a name.")
  .max(LIMITS.nameLength, `At most ${LIMITS.nameLength} letters.`)
  .transform((name) => cleanText(name).replaceAll("\n", " "))
  .refine((name) => name !== "", "Write a name.");

export const inviteSchema = z.object({
  name: nameSchema,
  email: z
    .string()
    .trim()
    .max(LIMITS.addressLength, "This address is too long.")
    .regex(MAIL_ADDRESS, "This is not a mail address.")
    .optional(),
  days: z.enum(OPEN_DAYS).default("14"),
  required: z.coerce.boolean().default(false),
});

const longWords = z
  .string("Write something.")
  .max(LIMITS.commentLength, `At most ${LIMITS.commentLength} letters.`)
  .transform(cleanText);
const id = z.number().int().positive();

export const saidSchema = z.object({
  do: z.literal("comment"),
  words: longWords.refine((words) => words !== "", "Write something."),
  node: z.string().max(40).nullable(),
  replyTo: id.nullable(),
});
const resolveSchema = z.object({ do: z.literal("resolve"), comment: id, resolved: z.boolean() });

const mark = z.string().max(40);
export const reviewerSaysSchema = z.discriminatedUnion("do", [
  saidSchema,
  resolveSchema,
  z.object({
    do: z.literal("decide"),
    approves: z.boolean(),
    note: longWords,
    /** The state that was shown. */
    content: mark,
    audience: mark,
  }),
]);

export const memberSaysSchema = z.discriminatedUnion("do", [
  saidSchema,
  resolveSchema,
  z.object({ do: z.literal("revoke"), reviewer: id }),
  z.object({ do: z.literal("require"), reviewer: id, required: z.boolean() }),
]);
