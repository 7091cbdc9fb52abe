import { z } from "zod";
import { fold } from "../../fields/fold.ts";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";

/** The opposite end of “begins with”: of addresses their host, of names their last part. */
export const ends: Operator<string> = {
  op: "ends",
  asks: "words",
  label: "ends with",
  types: ["text", "web"],
  argument: z.string().trim().min(1, "Write what to compare with.").max(200),
  words: (field, argument) => `${field} ends with “${argument}”`,
  compile(argument) {
    const wanted = fold(argument);
    return (value) => (value as string).endsWith(wanted);
  },
  sql: (value, argument) =>
    fragment`right(${value}, length(${fold(argument)}::text)) = ${fold(argument)}::text`,
};
