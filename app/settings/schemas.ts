/** What the forms of the settings take. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { pageWordsSchema } from "#core/phrases/pages.ts";
import { PICTURE_ID } from "#core/picture-id.ts";
import { required } from "#server/forms.ts";
import { linkParametersSchema, mailAddressSchema } from "#server/store/settings.ts";

export const accountSchema = z.object({
  name: required("Write your name."),
  email: mailAddressSchema,
  password: z.string().min(10, "At least 10 characters.").max(200).optional(),
  /** The one that it takes the place of. */
  current: z.string().max(200).optional(),
});
/** Parameters as a form has them: a line without a name is none. */
export const linksFormSchema = z.object({
  parameters: z
    .array(z.object({ name: z.string().optional(), words: z.string().optional() }))
    .max(LIMITS.linkParameters)
    .default([])
    .transform(
      (all): z.input<typeof linkParametersSchema> =>
        all.flatMap(({ name = "", words = "" }) => (name || words ? [{ name, words }] : [])),
    )
    .pipe(linkParametersSchema),
});

/** Where it is told when a sending starts and ends; empty for nowhere. */
export const webhookFormSchema = z.object({
  address: z
    .url({ protocol: /^https?$/, error: "Write an address that begins with https://." })
    .max(LIMITS.webAddressLength, "This address is too long.")
    .optional(),
});

/** A form has no null: a logo left out is none. */
export const pagesFormSchema = z.object({
  logo: z.string().regex(PICTURE_ID, "Choose an image.").optional(),
  words: pageWordsSchema,
});

/** A word as the checks of spelling look it up: in small letters. */
export const wordSchema = z
  .string("Write a word.")
  .trim()
  .regex(/^\p{L}[\p{L}\p{M}’'-]{1,79}$/u, "Write one word, of two letters or more.")
  .toLowerCase();
export const wordsFormSchema = z.object({ do: z.enum(["add", "remove"]), word: wordSchema });

export const TEAM_ROLES = ["owner", "designer", "marketer", "reviewer"] as const;
const role = z.enum(TEAM_ROLES, "Choose a role.");
const member = z.string().max(40);

/** What can be done with the team. */
export const teamSchema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("invite"),
    name: required("Write their name."),
    email: mailAddressSchema,
    role,
  }),
  z.object({ do: z.literal("role"), member, role }),
  z.object({ do: z.literal("address"), member }),
  z.object({ do: z.literal("leave"), member }),
]);
