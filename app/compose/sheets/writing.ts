/** Writing in place: a text editor on the element of a text in a sheet's frame. */
import { TextSelection } from "prosemirror-state";
import type { EditorView } from "prosemirror-view";
import { TABLE_KINDS } from "#core/blocks/table-items.ts";
import { type EmailDocument, outerBlockOf, pathTo } from "#core/document/index.ts";
import type { Dir } from "#core/kinds/common.ts";
import { blockStyles } from "#core/markup/index.ts";
import { tagWords } from "#core/merge/index.ts";
import type { Tag, TextKind } from "#core/text/index.ts";
import {
  COLOUR_ROLES,
  type Colour,
  type ColourRole,
  colourOf,
  resolveColour,
  type Theme,
} from "#core/theme/theme.ts";
import { nextCell } from "../doing/table-columns.ts";
import { designOf, firstSays } from "../live/item-tags.ts";
import type { Reading } from "../reading/reading.ts";
import type { Session } from "../session/session.ts";
import { createTextEditor, type TextEditor } from "../text/editor.ts";
import { followText, writeText } from "../text/follow.ts";
import type { PastedText } from "../text/paste.ts";
import type { TextPlace } from "./text-place.ts";
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
  onTyping(): void;
  onUpdate(view: EditorView): void;
  onAskTag(tag: Tag | null): void;
  onPaste(beside: PastedText["beside"] & { cut: boolean }): boolean;
  onEnd(): void;
  onAskLink(): void;
  onAskBar(): void;
  /** On to another cell of the table; from the last one to a row that is to come. */
  onCell(id: string): void;
  onLastCell(id: string): void;
}

/** Paragraphs and lists get the styles that the renderer gives them, by rules instead of inline. */
function writingStyle(doc: EmailDocument, node: string): string {
  const theme = doc.root.props.theme as unknown as Theme;
  const path = pathTo(doc, node);
  const block = path.at(-1)!;
  const set = path.map(({ props }) => (props.type as { size?: number } | undefined)?.size);
  const size = set.findLast((one) => typeof one === "number") ?? theme.type.body;
  const dir = path.map(({ props }) => (props.box as { dir?: Dir } | undefined)?.dir ?? props.dir);
  const gap = block.type === "text" ? Math.round(size * 0.75) : 8;
  const styles = blockStyles(gap, (dir.findLast((one) => one) as Dir | undefined) ?? "ltr");
  const colour = (block.props.linkColour ?? block.props.colour ?? "accent") as Colour;
  const roles = (Object.keys(COLOUR_ROLES) as ColourRole[])
    .map((role) => [role, colourOf(theme.colours, role)])
    .map(
      ([role, hex]) =>
        `.writing [data-colour=${role}]{color:${hex}}.writing [data-ground=${role}]{background-color:${hex}}`,
    )
    .join("");
  return `${roles}.writing p{${styles.p}}.writing p:last-child{${styles.pLast}}.writing ul,.writing ol{${styles.list}}.writing li{${styles.li}}.writing li>p{margin:0}.writing .indented{${styles.indented}}.writing sup,.writing sub{font-size:70%;line-height:1}.writing a{color:${resolveColour(colour, theme)};text-decoration:underline}`;
}

/** Begins writing a text on a sheet, with the cursor at a point or at its end. */
export function beginWriting(
  view: SheetView,
  { session, reading }: { session: Session; reading: Pick<Reading, "store"> },
  { block, element, path, field, text }: TextPlace,
  at: { x: number; y: number } | null,
  handlers: WritingHandlers,
): Writing {
  const node = block.id;
  const { doc } = reading.store.getState();
  const style = view.document.createElement("style");
  style.textContent = writingStyle(doc, node);
  view.document.head.append(style);
  element.replaceChildren();
  element.classList.add("writing");
  view.writing = node;
  const editor = createTextEditor(
    { mount: element },
    {
      kind: field.kind,
      text,
      tagWords(tag) {
        const { doc, surroundings, reader, tags } = reading.store.getState();
        return tagWords(firstSays(tag, designOf(doc, node, surroundings), tags.lang), reader, tags);
      },
      attributes: { role: "textbox", "aria-label": field.label, "aria-multiline": "true" },
      onTyping: handlers.onTyping,
      onSteps: (steps) =>
        writeText(session, { node, path, steps }, (now) => editor.replace(now, true)),
      onHistory: (what) => session[what](),
      onUpdate: handlers.onUpdate,
      onAskTag: handlers.onAskTag,
      onAskLink: handlers.onAskLink,
      onAskBar: handlers.onAskBar,
      onPaste: handlers.onPaste,
      splits: block.type === "text",
      lang: String(doc.root.props.lang),
      onEscape: handlers.onEnd,
      onEnter: handlers.onEnd,
      ...(block.type === TABLE_KINDS.cell.type && {
        onTab: (back: boolean) => {
          const next = nextCell(session.state().doc, node, back);
          if (next) handlers.onCell(next);
          else if (!back) handlers.onLastCell(node);
          return next !== null || !back;
        },
      }),
    },
  );
  const unfollow = followText(session, () => ({ node, path }), editor);
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
      unfollow();
      style.remove();
      view.writing = null;
      const outer = outerBlockOf(session.state().doc, node);
      if (outer) view.refresh(outer.id);
    },
  };
}

function selectAt(editor: TextEditor, pos: number): void {
  const { state } = editor.view;
  const near = Math.max(0, Math.min(pos, state.doc.content.size));
  editor.view.dispatch(state.tr.setSelection(TextSelection.near(state.doc.resolve(near), -1)));
}
