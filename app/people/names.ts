/** What a person is called on screen. */
import type { Values } from "#core/fields/index.ts";

const words = (value: unknown) => (typeof value === "string" ? value : "");

/** First and last name where there are such fields, else the address. */
export const contactName = ({ email, values }: { email: string; values: Values }): string =>
  [values.first_name, values.last_name].map(words).filter(Boolean).join(" ") || email;
