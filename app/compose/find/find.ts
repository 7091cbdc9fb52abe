/** Finding and replacing words across the whole email. */
import { type Allowed, whyNot } from "#core/blocks/check-edit.ts";
import { labelOf, textsOf } from "#core/blocks/index.ts";
import { nameOf } from "#core/blocks/names.ts";
import { isPartShown, walkShown } from "#core/blocks/parts.ts";
import { type EmailDocument, type SimpleEdit, together, valueAt } from "#core/document/index.ts";
import {
  type Found,
  findWords,
  type Query,
  replaceFound,
  type TextJson,
} from "#core/text/index.ts";

/** One place where the words stand. */
export interface Match {
  readonly node: string;
  readonly path: readonly string[];
  /** Where it is, in words. */
  readonly where: string;
  readonly text: TextJson;
  readonly found: Found;
}

/** Every place in the order of the email; the envelope comes first. */
export function matchesIn(doc: EmailDocument, query: Query): Match[] {
  if (query.words === "") return [];
  const matches: Match[] = [];
  for (const { node, holder } of walkShown(doc.root)) {
    for (const { path, label } of textsOf(node.type)) {
      const text = valueAt(node.props, path) as unknown as TextJson | undefined;
      if (!text || !isPartShown(node, path, holder)) continue;
      const own = node === doc.root ? label : `${labelOf(node)}: ${nameOf(node)}`;
      for (const found of findWords(text, query)) {
        matches.push({ node: node.id, path, where: own, text, found });
      }
    }
  }
  return matches;
}

/**
 * The edits that put other words in the places of matches, one for each text; and in how many places
 * they stay, because a text is linked or held, with the reason of the first.
 */
export function replaceEdits(
  doc: EmailDocument,
  matches: readonly Match[],
  words: string,
  allowed: Allowed,
): { edits: SimpleEdit[]; kept: number; why: string | null } {
  const texts = new Map<string, Match[]>();
  for (const match of matches) {
    const key = `${match.node} ${match.path.join(".")}`;
    texts.set(key, [...(texts.get(key) ?? []), match]);
  }
  const all = [...texts.values()].map((own) => {
    const { node, path, text } = own[0]!;
    const places = own.map(({ found }) => found);
    const steps = replaceFound(text, places, words);
    const edit: SimpleEdit = { type: "text", node, path: [...path], steps };
    return { edit, count: own.length };
  });
  const edits = all.map(({ edit }) => edit);
  // Each is looked at by itself only where not all can be made together.
  if (edits.length === 0 || whyNot(doc, together(edits), allowed) === null) {
    return { edits, kept: 0, why: null };
  }
  const refused = all.map(({ edit }) => whyNot(doc, edit, allowed));
  return {
    edits: edits.filter((_, i) => refused[i] === null),
    kept: all.reduce((sum, { count }, i) => (refused[i] === null ? sum : sum + count), 0),
    why: refused.find((why) => why !== null) ?? null,
  };
}
