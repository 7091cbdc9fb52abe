/** Writing on the sheets: one text at a time, on one of them. */
import { createStore } from "zustand";
import { find } from "#core/document/index.ts";
import type { Tag, Typed } from "#core/text/index.ts";
import type { Commands } from "../doing/commands.ts";
import { addRow } from "../doing/table-columns.ts";
import type { Messages } from "../messages/messages.ts";
import type { Panels } from "../panels/open.ts";
import { blocksFrom, textLike } from "../pasting/blocks.ts";
import type { Reading } from "../reading/reading.ts";
import type { Selection } from "../selection/selection.ts";
import type { Session } from "../session/session.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import { typeInto } from "../text/follow.ts";
import { holdKeys } from "../text/held-keys.ts";
import { editing, NOT_LOADED } from "../text/late.ts";
import { type TextPlace, textPlace } from "./text-place.ts";
import { SHEETS, type SheetName, type Views } from "./views.ts";
import type { Writing, WritingHandlers } from "./writing.ts";
import { contentOf } from "./written.ts";

export interface WriterState {
  /** The text under the hands, and the sheet it is on. */
  readonly writing: (Writing & { readonly on: SheetName }) | null;
  /** What the bar shows of the text where the cursor is: while it stays the same, the bar does too. */
  readonly format: string;
  /** The merge tags are asked for: a new one, or one that is changed. */
  readonly askingTag: { readonly tag: Tag | null } | null;
  /** The link of the selection is asked for. */
  readonly linking: boolean;
}

export interface Writer {
  readonly store: Readable<WriterState>;
  /** Begins writing a text of a node where a sheet was double-clicked. */
  begin(on: SheetName, node: string, at: { x: number; y: number; text: string | null }): void;
  end(): void;
  askTag(asking: WriterState["askingTag"]): void;
  link(open: boolean): void;
  /** A popover of the bar has opened or closed: writing goes on meanwhile. */
  popover(open: boolean): void;
  /** A sheet has gone, and what was written on it with it. */
  left(on: SheetName): void;
}

/** How long the focus may be nowhere before writing ends, ms. */
const BLUR_MS = 150;

/** The bar of the text that is being written. */
const BAR = "[data-format-bar]";

const IDLE: WriterState = { writing: null, format: "", askingTag: null, linking: false };

export function createWriter({
  session,
  reading,
  selection,
  commands,
  panels,
  views,
  messages,
}: {
  session: Session;
  reading: Pick<Reading, "store" | "beside">;
  selection: Selection;
  commands: Pick<Commands, "add" | "addFiles" | "run">;
  panels: Pick<Panels, "open">;
  views: Views;
  messages: Pick<Messages, "say">;
}): Writer {
  const store = createStore<WriterState>(() => IDLE);
  const { getState } = store;
  let popoverOpen = false;

  function end(): void {
    const { writing } = getState();
    if (!writing) return;
    popoverOpen = false;
    store.setState(IDLE);
    writing.end();
    for (const name of SHEETS) views.get(name)?.wake();
    reading.beside.follow();
    // What had to wait for the end of writing.
    views.get(writing.on)?.show(contentOf(reading.store.getState()));
    // Where another text has been asked for, there is nothing to call off.
    if (selection.store.getState().writing?.node === writing.node) selection.write(null);
  }

  function handlers(on: SheetName): WritingHandlers {
    const goOn = (cell: string) => {
      selection.select(cell);
      selection.write(cell, on);
    };
    return {
      onTyping() {
        session.typing();
        reading.beside.wait();
      },
      onUpdate({ state }) {
        // A key must not wait for the bar; what stands above the sheet follows when its size changes.
        const format = editing.now()!.formatOf(state);
        if (format !== getState().format) store.setState({ format });
      },
      onAskTag(tag) {
        popoverOpen = true;
        store.setState({ askingTag: { tag } });
      },
      onAskBar() {
        popoverOpen = true;
        document.querySelector<HTMLElement>(`${BAR} button`)?.focus();
      },
      onAskLink() {
        popoverOpen = true;
        store.setState({ linking: true });
      },
      onPaste({ tables, files, cut, rest }) {
        if (cut) messages.say("It was long: only the beginning was pasted.");
        const { doc } = reading.store.getState();
        const nodes = blocksFrom(doc, tables);
        const { writing } = getState();
        const block = rest && writing && find(doc, writing.node)?.node;
        // What comes after the table goes on in a text like the one before it.
        if (block) nodes.push(textLike(block, rest));
        const put = !nodes.length || commands.add({ kind: "ready", nodes, label: "Table" });
        if (files.length) commands.addFiles(files);
        return put;
      },
      onEnd: end,
      onCell: goOn,
      onLastCell(cell) {
        const row = addRow(session.state().doc, cell);
        if (row && commands.run(row.doing)) goOn(row.first);
      },
    };
  }

  /** A text that is written in as soon as that can be; what is typed meanwhile is held. */
  let awaited: { selected: string | null; end(): void } | null = null;

  /** Writing begins when what it takes has been loaded; who has gone on before leaves the words that were typed. */
  function beginLater(place: TextPlace, asked: Parameters<typeof begin>): void {
    awaited?.end();
    const node = place.block.id;
    const keep = (typed: Typed) => typeInto(session, { node, path: place.path }, typed);
    const ends = () => {
      if (awaited === mine) awaited = null;
      return held.release();
    };
    const mine = { selected: selection.store.getState().selected, end: () => keep(ends()) };
    const pages = SHEETS.flatMap((name) => views.get(name)?.document ?? []);
    const held = holdKeys([document, ...pages], mine.end);
    awaited = mine;
    editing.load().then(
      () => {
        if (awaited !== mine) return;
        const typed = ends();
        begin(...asked);
        const { writing } = getState();
        if (writing?.node === node) writing.editor.goOn(typed);
        else keep(typed);
      },
      () => {
        if (awaited === mine) mine.end();
        messages.say(NOT_LOADED, "wrong");
        selection.write(null);
      },
    );
  }

  function begin(on: SheetName, node: string, at: Parameters<Writer["begin"]>[2] | null): void {
    const view = views.get(on);
    const { shown, doc, lang, fixed } = reading.store.getState();
    const { writing } = getState();
    if (!view || fixed !== null || (writing?.node === node && writing.on === on)) return;
    if (shown !== doc) {
      // Words of another language are written beside the original.
      selection.write(null);
      panels.open("translations", lang);
      return;
    }
    const place = textPlace(view, doc, node, at?.text ?? null);
    if (!place) return;
    const tools = editing.now();
    if (!tools) return void beginLater(place, [on, node, at]);
    end();
    const begun = tools.beginWriting(view, { session, reading }, place, at, handlers(on));
    begun.element.addEventListener("blur", () => {
      // What is clicked on beside the sheet acts on what was written last.
      begun.editor.flush();
      reading.beside.follow();
      // The bar and its menus are outside the frame: they take the focus without ending this.
      setTimeout(() => {
        if (popoverOpen || getState().writing?.editor !== begun.editor) return;
        const { ownerDocument: page } = begun.element;
        if (page.activeElement !== begun.element || !page.hasFocus()) end();
      }, BLUR_MS);
    });
    for (const name of SHEETS) views.get(name)?.rest(node);
    store.setState({
      ...IDLE,
      writing: { ...begun, on },
      format: tools.formatOf(begun.editor.view.state),
    });
    selection.write(node, on);
  }

  // Asked for from elsewhere (Enter in the running order), or left by selecting something else.
  selection.store.subscribe(({ writing: asked, selected }, before) => {
    if (awaited && awaited.selected !== selected) awaited.end();
    const { writing } = getState();
    if (asked && asked !== before.writing) begin(asked.on ?? views.answering(), asked.node, null);
    else if (!asked && writing && writing.node !== selected) end();
  });
  session.beforeFlush(() => getState().writing?.editor.flush());

  return {
    store,
    begin,
    end,
    askTag: (askingTag) => store.setState({ askingTag }),
    link: (linking) => store.setState({ linking }),
    popover(open) {
      popoverOpen = open;
      if (!open) setTimeout(() => getState().writing?.editor.view.focus(), 0);
    },
    left(on) {
      if (getState().writing?.on === on) end();
    },
  };
}

export const { Provider: WriterProvider, use: useWriter } = handedDown<Writer>("writer");
export const useWriting = readsOf(useWriter);
