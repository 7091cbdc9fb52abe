/** A text under the hands and the same text in the document. */
import { find, valueAt } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import type { TextJson } from "#core/text/index.ts";
import type { Session } from "../session/session.ts";
import type { TextEditor } from "./editor.ts";

interface Place {
  readonly node: string;
  readonly path: readonly string[];
}

/** Steps that were typed become an edit; where the block is gone meanwhile, nothing comes of them. */
export function writeText(
  session: Session,
  { node, path, steps }: Place & { steps: Json[] },
): void {
  const there = find(session.state().doc, node) !== null;
  if (!there || !session.edit({ type: "text", node, path: [...path], steps })) session.rested();
}

/**
 * Keeps an editor at the text of the document, at once when that changes: a key pressed in between would
 * be counted from a text that is no longer there. Gives the way to stop.
 */
export function followText(
  session: Session,
  place: () => Place | null,
  editor: TextEditor,
): () => void {
  return session.store.subscribe(() => {
    const at = place();
    const node = at && find(session.state().doc, at.node)?.node;
    const text = node && valueAt(node.props, at.path);
    if (text) editor.replace(text as unknown as TextJson);
  });
}
