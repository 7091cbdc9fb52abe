/** All links of an email in one table, by where they lead; and the edits that make them lead elsewhere. */
import { textsOf } from "../blocks/index.ts";
import { nameOf } from "../blocks/names.ts";
import { type EmailDocument, type SimpleEdit, valueAt } from "../document/index.ts";
import { canonical, sameJson } from "../json.ts";
import { type Mention, mentionsIn, shownNodes } from "../mentions/index.ts";
import type { CompiledEmail, CompiledLink } from "../render/index.ts";
import { isEmptyLink, type Link, relink, type TextJson, type When } from "../text/index.ts";

/** One place where a link stands. */
export interface LinkPlace {
  readonly node: string;
  /** The way to it in its node. */
  readonly path: readonly string[];
  /** What it stands in, by name. */
  readonly where: string;
  readonly words: string;
  /** Who sees it; null for everybody. */
  readonly when: When | null;
  /** In HTML or plain text by hand it is changed there. */
  readonly byHand: boolean;
}

export interface LinkRow {
  readonly to: Link;
  readonly places: readonly LinkPlace[];
}

type LinkMention = Extract<Mention, { what: "link" }>;

const isText = ({ node, path }: LinkMention): boolean => {
  const own = path[0] === "tr" ? null : path.join(".");
  return textsOf(node.type).some((text) => text.path.join(".") === own) || path.at(-1) === "value";
};
const isByHand = ({ path }: LinkMention): boolean => path[0] === "source" || path[0] === "plain";

/** The links of an email that lead somewhere, those to one place together, in the order of the email. */
export function linksOf(doc: EmailDocument, compiled: Pick<CompiledEmail, "links">): LinkRow[] {
  const rows = new Map<string, { to: Link; places: LinkPlace[] }>();
  const add = (to: Link, place: LinkPlace) => {
    const key = canonical(to);
    const row = rows.get(key) ?? { to, places: [] };
    rows.set(key, row);
    row.places.push(place);
  };
  const known = new Set<string>();
  for (const mention of mentionsIn(doc)) {
    if (mention.what !== "link" || isEmptyLink(mention.to)) continue;
    const { node, path, to } = mention;
    const same = (link: CompiledLink) => link.node === node.id && sameJson(link.to, to);
    known.add(`${node.id} ${canonical(to)}`);
    add(to, {
      node: node.id,
      path,
      where: node.type === "email" ? "Envelope" : nameOf(node),
      words: mention.words || (compiled.links.find(same)?.words ?? ""),
      when: mention.when,
      byHand: isByHand(mention),
    });
  }
  // HTML by hand has links of its own, and some blocks bring the reader's own ways.
  for (const { node, when } of shownNodes(doc)) {
    for (const { to, words } of compiled.links.filter((link) => link.node === node.id)) {
      const byHand = node.type === "html";
      if (known.has(`${node.id} ${canonical(to)}`) || (!byHand && to.kind === "web")) continue;
      const where = nameOf(node);
      add(to, { node: node.id, path: byHand ? ["source"] : [], where, words, when, byHand });
    }
  }
  return [...rows.values()];
}

/** The edits that make every link to one place lead to another; those written by hand stay. */
export function leadingElsewhere(doc: EmailDocument, from: Link, to: Link): SimpleEdit[] {
  const wanted = canonical(from);
  const texts = new Set<string>();
  return mentionsIn(doc).flatMap((mention): SimpleEdit[] => {
    if (mention.what !== "link" || canonical(mention.to) !== wanted || isByHand(mention)) return [];
    const { node, path } = mention;
    if (!isText(mention)) {
      return [{ type: "set", node: node.id, path: [...path], value: to as never }];
    }
    const key = `${node.id} ${path.join(".")}`;
    const text = valueAt(node.props, path) as unknown as TextJson | undefined;
    if (texts.has(key) || !text) return [];
    texts.add(key);
    const steps = relink(text, from, to);
    return steps.length ? [{ type: "text", node: node.id, path: [...path], steps }] : [];
  });
}
