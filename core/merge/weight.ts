/** What an email weighs as it goes out: everything that is written for a reader, counted addresses included. */
import type { CompiledEmail } from "../render/index.ts";
import type { Fill } from "./body.ts";
import { prepareBody, unsigned } from "./prepare.ts";
import type { Reader } from "./values.ts";

/** Bytes that a value takes where nobody has one to show. */
const VALUE = 12;
/** A reader with a token as long as theirs are, and no values. */
const SOMEBODY: Reader = { values: {}, token: `m1-${"x".repeat(24)}` };
const encoder = new TextEncoder();
const bytesOf = (text: string) => encoder.encode(text).length;

const weightOfFill = (fill: Fill): number => {
  const bytes = bytesOf(fill.write(SOMEBODY));
  return fill.key === "token" ? bytes : Math.max(bytes, VALUE);
};

/** Bytes of the HTML as it goes out (UTF-8), all that only some readers see taken in. */
export function htmlBytes(email: CompiledEmail): number {
  const options = { links: "tracked", marks: false, sign: unsigned } as const;
  const { constantBytes, gaps, fills } = prepareBody(email.html, email, options);
  const weights = fills.map(weightOfFill);
  return gaps.reduce((sum, gap) => sum + (gap >= 0 ? weights[gap]! : 0), constantBytes);
}
