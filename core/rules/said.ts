/** A rule in another system's words: comparisons it can make, put together by all, any and none. */
export type Said =
  | { readonly say: string }
  | { readonly all: readonly Said[] }
  | { readonly any: readonly Said[] }
  | { readonly none: readonly Said[] };

export const say = (comparison: string): Said => ({ say: comparison });

/**
 * A text as a literal of Liquid; null where it cannot be written as one: the reference engine ends tags at braces
 * within, and engines do not agree on what a backslash is.
 */
export function liquidText(text: string): string | null {
  if (/[{}%\n\r\\]/.test(text)) return null;
  if (!text.includes('"')) return `"${text}"`;
  return text.includes("'") ? null : `'${text}'`;
}

/** A number as a literal of Liquid, which has no exponents; null where it would need one. */
export const liquidNumber = (n: number): string | null =>
  /^-?\d+(\.\d+)?$/.test(String(n)) ? String(n) : null;

/** A comparison of a value that is there: engines do not agree on what nothing is less than. */
export const there = (value: string, comparison: Said): Said => ({
  all: [say(`${value} != nil`), comparison],
});

/** `make` on every text or number as a literal; null where one cannot be written. */
export function saidOf<T>(
  values: readonly T[],
  literal: (value: T) => string | null,
  make: (literals: readonly string[]) => Said,
): Said | null {
  const literals = values.map(literal);
  return literals.includes(null) ? null : make(literals as string[]);
}
