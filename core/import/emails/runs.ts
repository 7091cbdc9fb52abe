/** Running words: where a paragraph ends, which of them are a heading, and which belong together. */
import { onlyLink } from "./leaves.ts";
import { type Look, lookIn } from "./look.ts";
import type { ForeignPiece } from "./pieces.ts";
import { type El, type Inner, isEl, letters, some } from "./tree.ts";

/** An end of a paragraph between two others. */
const BREAK: El = { tag: "br", attrs: { both: "" }, css: {}, children: [] };
export const isParagraphEnd = (el: El): boolean => el === BREAK;

/** The link that is all there is. */
export function aloneLink(nodes: readonly Inner[]): El | null {
  const holder: El = { tag: "p", attrs: {}, css: {}, children: nodes };
  return onlyLink(holder);
}

/** Parts of a run with an empty line between them. */
export function paragraphsOf(run: readonly Inner[]): Inner[][] {
  const parts: Inner[][] = [[]];
  let breaks: Inner[] = [];
  for (const one of run) {
    const own = parts.at(-1)!;
    if (isEl(one) && one.tag === "br") breaks.push(one);
    else if (breaks.length > 0 && letters(one) === 0) breaks.push(one);
    else {
      const ends = breaks.filter(isEl).length;
      if (ends > 1 && own.length > 0) parts.push([one]);
      else own.push(...(own.length > 0 ? breaks : []), one);
      breaks = [];
    }
  }
  return parts;
}

/** Paragraphs that follow each other and look alike are one text. */
export function joined(pieces: readonly ForeignPiece[]): ForeignPiece[] {
  const all: ForeignPiece[] = [];
  /** Nodes of the last, where it has been joined: they grow in place, since somebody sends paragraphs by the thousand. */
  let grown: Inner[] | null = null;
  for (const one of pieces) {
    const last = all.at(-1);
    const both = last?.kind === "words" && one.kind === "words";
    const meet =
      both && last.heading === null && one.heading === null && alike(last.look, one.look);
    if (!meet || last.pad[2] + one.pad[0] > 0 || last.pad[3] !== one.pad[3]) {
      all.push(one);
      grown = null;
      continue;
    }
    grown ??= [...last.nodes];
    grown.push(BREAK);
    for (const node of one.nodes) grown.push(node);
    const [top, right, , left] = last.pad;
    all[all.length - 1] = { ...last, nodes: grown, pad: [top, right, one.pad[2], left] };
  }
  return all;
}

const alike = (a: Look, b: Look): boolean =>
  Math.abs(a.size - b.size) < 1.5 &&
  a.ink === b.ink &&
  a.align === b.align &&
  a.ground === b.ground;

/** Words as large as this are a heading, px; and how long one is at most. */
const LARGE = [28, 20] as const;
const HEADING_WORDS = 140;

/** How most of the words look, and whether they are a heading. */
export function headingIn(
  nodes: readonly Inner[],
  around: Look,
): { look: Look; heading: 1 | 2 | 3 | null } {
  const weights = new Map<Look, number>();
  let level: number | null = null;
  const visit = (one: Inner, look: Look) => {
    if (!isEl(one)) {
      const length = letters(one);
      if (length) weights.set(look, (weights.get(look) ?? 0) + length);
      return;
    }
    if (/^h[1-6]$/.test(one.tag)) level = Number(one.tag[1]);
    const is = lookIn(one, look);
    for (const inner of one.children) visit(inner, is);
  };
  for (const one of nodes) visit(one, around);
  const [look = around] = [...weights].sort((a, b) => b[1] - a[1]).map(([one]) => one);
  if (level !== null) return { look, heading: Math.min(3, level) as 1 | 2 | 3 };
  const length = [...weights.values()].reduce((sum, one) => sum + one, 0);
  const lists = nodes.some(
    (one) =>
      isEl(one) && (one.tag === "ul" || one.tag === "ol" || some(one, ({ tag }) => tag === "li")),
  );
  if (length === 0 || length > HEADING_WORDS || lists) return { look, heading: null };
  if (look.size >= LARGE[0]) return { look, heading: 1 };
  return { look, heading: look.size >= LARGE[1] ? 2 : null };
}
