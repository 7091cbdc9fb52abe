/** An email as others read it with whom a reader shares it. */
import { footer } from "../blocks/footer.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import { isJsonObject, type Json, type JsonObject } from "../json.ts";

/** Ways that are the reader's own: out, to her choices, and to her copy on the web. */
const OWN: ReadonlySet<unknown> = new Set(["unsubscribe", "preferences", "webVersion"]);

const isOwnLink = (value: JsonObject): boolean =>
  Object.keys(value).length === 1 && OWN.has(value.kind);

function without(value: Json): Json {
  if (Array.isArray(value)) return value.map(without);
  if (!isJsonObject(value)) return value;
  if (isOwnLink(value)) return { kind: "none" };
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, without(inner)]));
}

function nodeForOthers(node: DocNode): DocNode {
  const props = without(node.props) as JsonObject;
  const own =
    node.type === footer.type
      ? {
          ...{ ...props, unsubscribe: false, preferences: false, webVersion: false },
          // Whom it was sent to is nobody else's business.
          parts: { ...(props.parts as JsonObject), sentTo: false },
        }
      : props;
  return { ...node, props: own, children: node.children.map(nodeForOthers) };
}

/** The same email without its reader's own address, its links that only she can follow taken out: for others they lead nowhere. */
export const forOthers = (doc: EmailDocument): EmailDocument => ({
  ...doc,
  root: nodeForOthers(doc.root),
});
