/** Who is drawn for what. */
import type { SplitPlan } from "./plan.ts";

export interface Sizes {
  /** Readers of each variant while it is tried. */
  readonly each: number;
  readonly variants: number;
  /** Those who get nothing, so that it shows what the email brings. */
  readonly control: number;
  /** Those who get the best one afterwards. */
  readonly rest: number;
}

/** How many of so many readers are drawn for what; variants are tried on equally many. */
export function sizesOf(
  readers: number,
  { variants, share, control }: Pick<SplitPlan, "variants" | "share" | "control">,
): Sizes {
  const count = variants.length + 1;
  const none = Math.floor((readers * control) / 100);
  const each = count > 1 ? Math.floor((readers * share) / 100 / count) : 0;
  return { each, variants: count, control: none, rest: readers - none - each * count };
}

export type Drawn =
  | { readonly for: "control" }
  | { readonly for: "test"; readonly variant: number }
  | { readonly for: "rest" };

/** What whoever was drawn as the `place`-th (from 0) is drawn for. */
export function drawnFor(place: number, { each, variants, control }: Sizes): Drawn {
  if (place < control) return { for: "control" };
  if (place < control + each * variants) {
    return { for: "test", variant: (place - control) % variants };
  }
  return { for: "rest" };
}
