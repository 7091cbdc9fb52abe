/** What is asked of an email, derived from what it mentions. */
import {
  alternativesOf,
  type DerivedTags,
  derivedBehind,
  derivedIdOf,
  type PictureValue,
} from "../derived/index.ts";
import { type DocNode, walk } from "../document/index.ts";
import { ITEM_PICTURE } from "../text/index.ts";
import { type Mentioned, mentionsOf } from "./mentions.ts";

/** The value something is taken from: a tag's, or that of the derived tag which makes a link or a picture; null for what is fixed. */
export function refOf(mention: Mentioned): string | null {
  switch (mention.what) {
    case "tag":
      return mention.tag.ref;
    case "link":
      return mention.to.kind === "derived" && mention.to.tag !== ""
        ? `derived:${mention.to.tag}`
        : null;
    case "picture":
      return derivedIdOf(mention.picture) === null ? null : mention.picture;
    default:
      return null;
  }
}

const refs = new WeakMap<DocNode, readonly string[]>();
/** The refs a node names itself, each once. */
export function refsIn(node: DocNode): readonly string[] {
  let found = refs.get(node);
  if (!found) {
    found = [...new Set(mentionsOf(node).flatMap((mention) => refOf(mention) ?? []))];
    refs.set(node, found);
  }
  return found;
}

/** The ids of the derived tags a document names. */
export const derivedIn = (root: DocNode): Set<string> =>
  new Set([...walk(root)].flatMap((node) => refsIn(node).flatMap((ref) => derivedIdOf(ref) ?? [])));

/** The ids of all pictures that a node can show with all in it, those that derived tags choose and those of translations too. */
export function picturesIn(root: DocNode, derived: DerivedTags = new Map()): Set<string> {
  const found = new Set<string>();
  const named = new Set<string>();
  for (const node of walk(root)) {
    for (const mention of mentionsOf(node)) {
      if (mention.what === "picture") found.add(mention.picture);
      const ref = refOf(mention);
      if (ref !== null) named.add(ref);
    }
  }
  for (const tag of derivedBehind(named, derived)) {
    if (tag.kind !== "picture") continue;
    for (const { value } of alternativesOf<PictureValue>(tag)) {
      if (value.picture !== null) found.add(value.picture);
    }
  }
  return new Set([...found].filter((id) => derivedIdOf(id) === null && id !== ITEM_PICTURE));
}
