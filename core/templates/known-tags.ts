/** Templates name fields that not everybody has. */
import type { DocNode, EmailDocument } from "../document/index.ts";
import { isJsonObject, type Json, type JsonObject } from "../json.ts";

const CONTACT = /^contact:([a-z0-9_]+)/;

/** The words of a tag whose field is not there; null where it can stay. */
function wordsInstead(value: JsonObject, known: ReadonlySet<string>): string | null {
  if (value.type !== "tag" || !isJsonObject(value.attrs)) return null;
  const { ref, fallback } = value.attrs;
  const field = typeof ref === "string" ? CONTACT.exec(ref)?.[1] : undefined;
  if (!field || field === "email" || known.has(field)) return null;
  return typeof fallback === "string" ? fallback : "";
}

function within(value: Json, known: ReadonlySet<string>): Json {
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

const inNode = (node: DocNode, known: ReadonlySet<string>): DocNode => ({
  ...node,
  props: within(node.props, known) as JsonObject,
  children: node.children.map((child) => inNode(child, known)),
});

/** The same email with the default values of tags in their places, where these name fields that are not `known`. */
export const withKnownTags = (doc: EmailDocument, known: ReadonlySet<string>): EmailDocument => ({
  ...doc,
  root: inNode(doc.root, known),
});
