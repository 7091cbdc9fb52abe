/** What is said of replacing images everywhere. */
import { counted } from "../ui/words.ts";

export const REPLACED_BEFORE =
  "Somebody else has replaced this image since you opened it. Open it again to see by which.";

export interface Replaced {
  readonly names: readonly string[];
  readonly left: readonly { readonly name: string; readonly why: string }[];
}

/** Where it was replaced, in a sentence. */
export const replacedIn = ({ names }: Replaced): string =>
  names.length === 0
    ? "It stood nowhere."
    : `Replaced in ${names.length === 1 ? `“${names[0]}”` : counted(names.length, "place")}.`;

/** Where it was not, a line each. */
export const leftIn = ({ left }: Replaced): string[] =>
  left.map(({ name, why }) => `“${name}” was left as it is: ${why}`);
