/** Comments as pages show them. */
import { nameOf } from "#core/blocks/names.ts";
import { type EmailDocument, find, isBlock, walk } from "#core/document/index.ts";
import type { Comment } from "#server/store/reviews.ts";
import { ago } from "../ui/words.ts";

export interface ShownComment {
  readonly id: number;
  readonly author: string;
  readonly at: string;
  readonly words: string;
  /** The node it is about; null for the whole email. */
  readonly node: string | null;
  /** What that is called; null where it is gone. */
  readonly place: string | null;
  readonly resolved: boolean;
  readonly replies: readonly Pick<ShownComment, "id" | "author" | "at" | "words">[];
}

/** Comments with the replies to each, the latest last. */
export function shownComments(
  comments: readonly Comment[],
  doc: EmailDocument,
  now: Date,
  zone: string,
): ShownComment[] {
  const shown = (one: Comment) => ({
    id: one.id,
    author: one.author,
    at: ago(one.at, now, zone),
    words: one.words,
  });
  return comments
    .filter(({ replyTo }) => replyTo === null)
    .map((one) => {
      const node = one.node === null ? null : find(doc, one.node)?.node;
      return {
        ...shown(one),
        node: one.node,
        place: one.node === null ? "The whole email" : node ? nameOf(node) : null,
        resolved: one.resolved,
        replies: comments.filter(({ replyTo }) => replyTo === one.id).map(shown),
      };
    });
}

/** What a comment can be about beside the whole email, top to bottom. */
export const placesIn = ({ root }: EmailDocument): { value: string; label: string }[] =>
  [...walk(root)]
    .filter(({ type }) => isBlock(type))
    .map((node) => ({ value: node.id, label: nameOf(node) }));
