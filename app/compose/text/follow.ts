/** A text under the hands and the same text in the document. */
import { find, valueAt } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import { type TextJson, type Typed, typedSteps } from "#core/text/index.ts";
import type { Session } from "../session/session.ts";
import type { TextEditor } from "./editor.ts";

interface Place {
  readonly node: string;
  readonly path: readonly string[];
}

/**
 * Steps that were typed become an edit; where the block is gone meanwhile, nothing comes of them. What is refused goes
 * from under the hands too: the editor is `put` back to the text as it is.
 */
export function writeText(
  session: Session,
  { node, path, steps }: Place & { steps: Json[] },
  put: (text: TextJson) => void,
): void {
  const there = find(session.state().doc, node)?.node;
  if (there && session.edit({ type: "text", node, path: [...path], steps })) return;
  session.rested();
  const text = there && valueAt(there.props, path);
  if (text) put(text as unknown as TextJson);
}

/** Puts what was typed before there was an editor into the text as it is now. */
export function typeInto(session: Session, place: Place, typed: Typed): void {
  const block = find(session.state().doc, place.node)?.node;
  const text = block && valueAt(block.props, place.path);
  const steps = text ? typedSteps(text as unknown as TextJson, typed) : [];
  if (steps.length) writeText(session, { ...place, steps }, () => {});
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
