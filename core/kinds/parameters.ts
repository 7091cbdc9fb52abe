/**
 * Campaign parameters: what is added to the query of every web address, so that statistics of the site it leads to know
 * where its visitors come from. Their names and what they say are settings; an email can say something else.
 */
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import type { Tag } from "../text/index.ts";

/** Names of a query (RFC 3986, 2.3) that need no encoding. */
export const PARAMETER_NAME = /^[A-Za-z][A-Za-z0-9_.~-]{0,39}$/;
const name = z
  .string()
  .trim()
  .regex(PARAMETER_NAME, "A letter, then letters, digits, dots, hyphens, underscores.");
const words = z.string().trim().max(LIMITS.parameterWords, "This is too long.");

export const linkParameterSchema = z.object({
  name,
  /** Left empty, the campaign's name. */
  words: words.default(""),
});
export type LinkParameter = z.infer<typeof linkParameterSchema>;

/** What an email says for some of them, by name; one that says nothing is left out of its links. */
export const ownParametersSchema = z.record(name, words);
export type OwnParameters = z.infer<typeof ownParametersSchema>;

const CAMPAIGN_NAME: Tag = { ref: "campaign:name", fallback: null, format: null };

/** A parameter as it stands in the links of an email. */
export interface Parameter {
  readonly name: string;
  readonly value: string | Tag;
}

/** The parameters of an email's links. */
export const parametersOf = (
  settings: readonly LinkParameter[] = [],
  own: OwnParameters = {},
): Parameter[] =>
  settings.flatMap(({ name, words }): Parameter[] => {
    if (!Object.hasOwn(own, name)) return [{ name, value: words || CAMPAIGN_NAME }];
    return own[name] ? [{ name, value: own[name]! }] : [];
  });
