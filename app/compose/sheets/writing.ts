/** Writing in place: a text editor on the element of a text in a sheet's frame. */
import { TextSelection } from "prosemirror-state";
import { blockKind } from "#core/blocks/index.ts";
import { find, valueAt } from "#core/document/index.ts";
import { tagWords } from "#core/merge/index.ts";
import { blockStyles, type TextJson, type TextKind } from "#core/text/index.ts";
import { type Colour, resolveColour, type Theme } from "#core/theme/theme.ts";
import type { Composer } from "../context.ts";
import { createTextEditor, type TextEditor } from "../text/editor.ts";
import type { SheetView } from "./view.ts";

export interface Writing {
  readonly node: string;
  readonly kind: TextKind;
  readonly editor: TextEditor;
  readonly element: HTMLElement;
  readonly path: readonly string[];
  end(): void;
}

export interface WritingHandlers {
  onUpdate(): void;
  onAskTag(): void;
  onEnd(): void;
}

/** Paragraphs and lists get the styles that the renderer gives them, by rules instead of inline. */
function writingStyle(composer: Composer, node: string): string {
  const block = find(composer.doc, node)!.node;
  const theme = composer.doc.root.props.theme as unknown as Theme;
  const size = typeof block.props.size === "number" ? block.props.size : theme.type.body;
  const styles = blockStyles(block.type === "footer" ? 8 : Math.round(size * 0.75));
  const colour = (block.props.linkColour ?? block.props.colour ?? "accent") as Colour;
  return `.writing p{${styles.p}}.writing p:last-child{${styles.pLast}}.writing ul,.writing ol{${styles.list}}.writing li{${styles.li}}.writing li>p{margin:0}.writing a{color:${resolveColour(colour, theme)};text-decoration:underline}`;
}

/** Begins writing a text of a block on a sheet, the first where none is named; null where it has none. */
export function beginWriting(
  view: SheetView,
  composer: Composer,
  node: string,
  at: { x: number; y: number; text: string | null } | null,
  handlers: WritingHandlers,
): Writing | null {
  const block = find(composer.doc, node)?.node;
  const named = at?.text ? `[data-text="${at.text}"]` : "[data-text]";
  const element = view.element(node)?.querySelector<HTMLElement>(named);
  if (!block || !element) return null;
  const path = (element.dataset.text ?? "").split(".");
  const field = blockKind(block.type)?.texts.find((text) => text.path.join(".") === path.join("."));
  const text = valueAt(block.props, path) as unknown as TextJson | undefined;
  if (!field || !text) return null;

  const style = view.document.createElement("style");
  style.textContent = writingStyle(composer, node);
  view.document.head.append(style);
  element.replaceChildren();
  element.classList.add("writing");
  view.writing = node;
  const editor = createTextEditor(
    { mount: element },
    {
      kind: field.kind,
      text,
      tagWords: (tag) => tagWords(tag, composer.reader, String(composer.doc.root.props.lang)),
      attributes: { role: "textbox", "aria-label": field.label, "aria-multiline": "true" },
      seq: composer.session.seq,
      onTyping: composer.session.typing,
      onSteps: (steps, base, mine) => composer.session.write({ node, path, steps, base, mine }),
      onHistory: (what) => void composer.session[what](),
      onUpdate: handlers.onUpdate,
      onAskTag: handlers.onAskTag,
      onEscape: handlers.onEnd,
      onEnter: handlers.onEnd,
    },
  );
  view.frame.contentWindow?.focus();
  editor.view.focus();
  if (at) {
    const found = editor.view.posAtCoords({ left: at.x, top: at.y });
    if (found) selectAt(editor, found.pos);
  } else selectAt(editor, editor.view.state.doc.content.size);

  return {
    node,
    kind: field.kind,
    editor,
    element,
    path,
    end() {
      editor.destroy();
      style.remove();
      view.writing = null;
      view.refresh(node);
    },
  };
}

function selectAt(editor: TextEditor, pos: number): void {
  const { state } = editor.view;
  const near = Math.max(0, Math.min(pos, state.doc.content.size));
  editor.view.dispatch(state.tr.setSelection(TextSelection.near(state.doc.resolve(near), -1)));
}
