import type { Finding } from "../kinds/kind.ts";
import { colourPairs, type Pair } from "../render/index.ts";
import { forcedDark } from "../theme/forced-dark.ts";
import { colourOf, contrast, type Theme } from "../theme/theme.ts";
import type { Check } from "./check.ts";

/** Large words: 24 px, or 18.66 px and bold (WCAG 2.2, 1.4.3). */
export const needed = ({ size, bold }: Pair) => (size >= 24 || (bold && size >= 18.66) ? 3 : 4.5);

const ratio = (number: number) => `${Math.floor(number * 10) / 10} : 1`;

interface Trouble {
  readonly where: string;
  readonly found: number;
}

/** Where the words of a pair are too pale: light, dark, or darkened by force; null where they can be read everywhere. */
function trouble(pair: Pair, theme: Theme): Trouble | null {
  const least = needed(pair);
  const { dark } = theme;
  const places: Trouble[] = [{ where: "", found: contrast(pair.ink, pair.ground) }];
  if (dark) {
    places.push({ where: " in dark mail programs", found: inDark(pair, dark) });
  }
  for (const forced of forcedDark(pair.ink, pair.ground)) {
    places.push({
      where: " in mail programs that darken by force",
      found: contrast(forced.ink, forced.ground),
    });
  }
  // Nobody can choose what programs do by force: there it is enough that words can still be made out.
  const forcedFrom = dark ? 2 : 1;
  return (
    places.find(({ found }, i) => {
      const wanted = i < forcedFrom ? least : Math.min(least, 3);
      return found < wanted;
    }) ?? null
  );
}

/** How well the words of a node can be read: the least of its contrasts, and what is wanted of it. */
export interface NodeContrast {
  readonly ratio: number;
  readonly needed: number;
  /** The same in dark mail programs; null where the theme has no dark colours. */
  readonly dark: number | null;
}

/** The least contrast of each node that has words, light and dark; what nobody can tell is left out. */
export function contrastsOf(
  pairs: readonly Pair[],
  theme: Theme,
): { readonly [node: string]: NodeContrast } {
  const out: Record<string, NodeContrast> = {};
  for (const pair of pairs) {
    if (pair.unsure || pair.over !== null) continue;
    const ratio = contrast(pair.ink, pair.ground);
    const dark = theme.dark && inDark(pair, theme.dark);
    const before = out[pair.node];
    const least = (a: number | null, b: number | null | undefined) =>
      a === null || b == null ? a : Math.min(a, b);
    if (before && before.ratio - before.needed <= ratio - needed(pair)) {
      out[pair.node] = { ...before, dark: least(before.dark, dark) };
    } else {
      out[pair.node] = { ratio, needed: needed(pair), dark: least(dark, before?.dark) };
    }
  }
  return out;
}

const inDark = (pair: Pair, dark: NonNullable<Theme["dark"]>): number =>
  contrast(
    pair.inkRole ? colourOf(dark, pair.inkRole) : pair.ink,
    pair.groundRole ? colourOf(dark, pair.groundRole) : pair.ground,
  );

/** Words that are hard to read on their ground: light, dark, and darkened by force (WCAG 2.2, 1.4.3). */
export const contrasts: Check = {
  id: "contrast",
  run({ compiled, email }) {
    const findings: Finding[] = [];
    const told = new Set<string>();
    // The same colours stand in many blocks.
    const known = new Map<string, Trouble | null>();
    for (const pair of colourPairs(compiled.html)) {
      const { ink, ground, inkRole, groundRole } = pair;
      const like = [ink, ground, inkRole, groundRole, needed(pair)].join();
      let problem = pair.unsure ? null : known.get(like);
      if (problem === undefined) {
        problem = trouble(pair, email.theme);
        known.set(like, problem);
      }
      const key = `${pair.node}${problem?.where}${pair.over === null}`;
      if (!problem || told.has(key)) continue;
      told.add(key);
      findings.push({
        check: "contrast",
        severity: "look",
        // Behind an image lies the ground, which shows where images are off.
        message: `Words are hard to read${pair.over === null ? "" : " where images are off"}${problem.where}`,
        detail: `“${pair.words}” stands at ${ratio(problem.found)} on its ground; ${needed(pair)} : 1 is wanted.`,
        at: pair.node,
      });
    }
    return findings;
  },
};
