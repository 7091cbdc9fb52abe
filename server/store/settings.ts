/** Settings of the sender: brand, addresses, zone, theme. */
import { IANAZone } from "luxon";
import { z } from "zod";
import { MAIL_ADDRESS } from "#core/fields/address.ts";
import { type LinkParameter, linkParameterSchema } from "#core/kinds/parameters.ts";
import { LIMITS } from "#core/limits.ts";
import { pageWordsSchema } from "#core/phrases/pages.ts";
import { PICTURE_ID } from "#core/picture-id.ts";
import { DAY_LANGUAGES, type Quiet } from "#core/schedule/index.ts";
import { STANDARD_THEME, themeSchema } from "#core/theme/theme.ts";
import type { Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { required } from "../forms.ts";

export const mailAddressSchema = z
  .string("Write a mail address.")
  .trim()
  .max(LIMITS.addressLength, "This address is too long.")
  .regex(MAIL_ADDRESS, "This is not a mail address.");

export const senderSchema = z.object({
  brandName: required("Write the name readers know you by."),
  postalAddress: z.string().trim().max(500).default(""),
  fromName: required("Write who the email is from."),
  fromAddress: mailAddressSchema,
  replyTo: z.union([z.literal(""), mailAddressSchema]).default(""),
  /** The language of dates in the studio. */
  language: z.enum(DAY_LANGUAGES, "Choose a language.").default("en-GB"),
  zone: z
    .string()
    .refine((zone) => IANAZone.isValidZone(zone), "Choose a time zone from the list."),
});
export type Sender = z.infer<typeof senderSchema>;

const whole = (least: number, most: number) =>
  z.coerce
    .number<number>("Write a number.")
    .int("Write a whole number.")
    .min(least, `At least ${least}.`)
    .max(most, `At most ${most}.`);
export const sendingSchema = z.object({
  /** Percent of readers who may bounce before a launch stops and asks. */
  bounceShare: z.coerce
    .number<number>("Write a number.")
    .min(1, "At least 1.")
    .max(100, "At most 100.")
    .default(8),
  /** How many emails a contact gets at most in so many days; left out for any number. */
  capEmails: whole(1, 100).optional(),
  capDays: whole(1, 365).default(7),
  /** How many messages a minute go to one domain; left out, as quickly as they go. */
  perMinute: whole(1, 100_000).optional(),
  /** The field with the name that stands before an address in To; empty for none. */
  nameField: z.string().max(40).default(""),
  /** Full hours between which nobody gets anything, by their own clock; both, or neither. */
  quietFrom: whole(0, 23).optional(),
  quietTo: whole(0, 23).optional(),
  /** Days after a click in which what is bought counts as its email's. */
  orderDays: whole(1, 90).default(7),
});

const firstStepsSchema = z.object({
  /** A message has been handed to the mail service. */
  delivery: z.boolean().default(false),
});

/** Words of one's own that no dictionary has, in small letters. */
const wordsSchema = z.array(z.string().max(80)).max(LIMITS.ownWords).default([]);

const standInsSchema = z.object({ ahead: z.number().int().min(0).max(100_000).default(0) });

/** What is added to the query of web addresses; each name once. */
export const linkParametersSchema = z
  .array(linkParameterSchema)
  .max(LIMITS.linkParameters, `At most ${LIMITS.linkParameters}.`)
  .refine((all) => new Set(all.map(({ name }) => name)).size === all.length, "Each name once.");

/** The quiet hours that are set; null for none. */
export const quietOf = ({
  quietFrom: from,
  quietTo: to,
}: z.infer<typeof sendingSchema>): Quiet | null =>
  from === undefined || to === undefined || from === to ? null : { from, to };

/** How pages for readers look and what they say, where that is the house's own. */
export const pagesSchema = z.object({
  /** The id of a picture of the library; null for the brand's name. */
  logo: z.string().regex(PICTURE_ID).nullable().default(null),
  words: pageWordsSchema.prefault({}),
});

/** Where it is told when a sending starts and ends, and with what that is signed. */
const webhookSchema = z.object({ address: z.string(), secret: z.string() }).nullable();
export type Webhook = NonNullable<z.infer<typeof webhookSchema>>;

export interface Settings {
  readonly webhook: Webhook | null;
  readonly linkParameters: readonly LinkParameter[];
  readonly sender: Sender;
  readonly sending: z.infer<typeof sendingSchema>;
  readonly theme: z.infer<typeof themeSchema>;
  readonly pages: z.infer<typeof pagesSchema>;
  /** The keys of templates that were put in. */
  readonly shipped: readonly string[];
  readonly words: readonly string[];
  /** How many days the time of the stand-ins' sites is ahead. */
  readonly standIns: z.infer<typeof standInsSchema>;
  /** What of the first steps nothing else tells of. */
  readonly firstSteps: z.infer<typeof firstStepsSchema>;
}

const STANDARD_SENDER: Sender = {
  brandName: "Our newsletter",
  postalAddress: "",
  fromName: "Our newsletter",
  fromAddress: "news@example.org",
  replyTo: "",
  language: "en-GB",
  zone: "Europe/London",
};

/** What was read last, and the settings it stands for: every page asks for them, and they hardly ever change. */
let last: { readonly read: string; readonly settings: Settings } | undefined;

export async function getSettings(sql: Sql): Promise<Settings> {
  const rows = await sql<{ key: string; value: unknown }>`
    select key, value from settings order by key`;
  const read = JSON.stringify(rows);
  if (last?.read !== read) {
    last = { read, settings: checked(new Map(rows.map(({ key, value }) => [key, value]))) };
  }
  return last.settings;
}

function checked(stored: ReadonlyMap<string, unknown>): Settings {
  return {
    sender: senderSchema.parse(stored.get("sender") ?? STANDARD_SENDER),
    webhook: webhookSchema.parse(stored.get("webhook") ?? null),
    sending: sendingSchema.parse(stored.get("sending") ?? {}),
    pages: pagesSchema.parse(stored.get("pages") ?? {}),
    shipped: z.array(z.string()).parse(stored.get("shipped") ?? []),
    firstSteps: firstStepsSchema.parse(stored.get("firstSteps") ?? {}),
    linkParameters: linkParametersSchema.parse(stored.get("linkParameters") ?? []),
    words: wordsSchema.parse(stored.get("words") ?? []),
    standIns: standInsSchema.parse(stored.get("standIns") ?? {}),
    theme: themeSchema.parse(
      // Themes saved before there were dark roles, web fonts, palettes and starts have none.
      {
        palette: [],
        starts: {},
        dark: null,
        webFonts: STANDARD_THEME.webFonts,
        ...((stored.get("theme") ?? STANDARD_THEME) as object),
      },
    ),
  };
}

export async function saveSetting<K extends keyof Settings>(
  sql: Sql,
  key: K,
  value: Settings[K],
): Promise<void> {
  await sql`insert into settings (key, value) values (${key}, ${jsonb(value)})
    on conflict (key) do update set value = excluded.value`;
}

/** Takes a word of one's own out; one that is not there changes nothing. */
export async function removeWord(sql: Sql, word: string): Promise<void> {
  await sql`update settings set value = value - ${word}::text where key = 'words'`;
}

/** Adds a word of one's own, in small letters; one that is there already changes nothing. */
export async function addWord(sql: Sql, word: string): Promise<void> {
  await sql`insert into settings (key, value) values ('words', jsonb_build_array(${word}::text))
    on conflict (key) do update set value = case
      when settings.value @> excluded.value then settings.value
      else settings.value || excluded.value end`;
}
