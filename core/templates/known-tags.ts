/** Templates name fields that not everybody has. */
import type { DocNode, EmailDocument } from "../document/index.ts";
import { isJsonObject, type Json, type JsonObject } from "../json.ts";

/** Whether a path of a tag (`first_name`, `site.manager`) leads to a value here. */
export type KnownPath = (path: string) => boolean;

const CONTACT = "contact:";

/** The words of a tag whose field is not there; null where it can stay. */
function wordsInstead(value: JsonObject, known: KnownPath): string | null {
  if (value.type !== "tag" || !isJsonObject(value.attrs)) return null;
  const { ref, fallback } = value.attrs;
  if (typeof ref !== "string" || !ref.startsWith(CONTACT)) return null;
  if (known(ref.slice(CONTACT.length))) return null;
  return typeof fallback === "string" ? fallback : "";
}

function within(value: Json, known: KnownPath): Json {
  if (Array.isArray(value)) {
    return value.flatMap((one) => {
      const words = isJsonObject(one) ? wordsInstead(one, known) : null;
      if (words === null) return [within(one, known)];
      return words ? [{ type: "text", text: words }] : [];
    });
  }
  if (!isJsonObject(value)) return value;
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, within(one, known)]));
}

const inNode = (node: DocNode, known: KnownPath): DocNode => ({
  ...node,
  props: within(node.props, known) as JsonObject,
  children: node.children.map((child) => inNode(child, known)),
});

/** The same email with the default values of tags in their places, where these name fields that are not `known`. */
export const withKnownTags = (doc: EmailDocument, known: KnownPath): EmailDocument => ({
  ...doc,
  root: inNode(doc.root, known),
});
