/** Every key of the composer. A new one is an entry here. */
import { nodeKind, textsOf } from "#core/blocks/index.ts";
import { isPartShown, walkShown } from "#core/blocks/parts.ts";
import { type DocNode, type EmailDocument, find, isItem, pathTo } from "#core/document/index.ts";
import { duplicate, readingOrder, shift, takeOut } from "../doing/actions.ts";
import type { Commands } from "../doing/commands.ts";
import { intoBand, intoCard } from "../doing/grouping.ts";
import { copyStyle, pasteStyle } from "../doing/style.ts";
import type { Messages } from "../messages/messages.ts";
import type { Panels } from "../panels/open.ts";
import type { Reading } from "../reading/reading.ts";
import type { Selection } from "../selection/selection.ts";
import type { Session } from "../session/session.ts";

/** What keys act with. */
export interface KeyParts {
  readonly session: Pick<Session, "undo" | "redo">;
  readonly reading: Pick<Reading, "store">;
  readonly selection: Selection;
  readonly commands: Pick<Commands, "run">;
  readonly panels: Pick<Panels, "open">;
  readonly messages: Pick<Messages, "announce">;
}

/** How things stand when a key is pressed. */
export interface Pressed {
  readonly doc: EmailDocument;
  readonly selected: string | null;
  readonly chosen: readonly string[];
  /** What is selected; there only for keys that need it. */
  readonly node: DocNode;
  readonly shift: boolean;
}

export interface Key {
  /** Names of keys with what is held down (`Mod` is Ctrl or ⌘), the first as it is told to people. */
  readonly keys: string;
  /** Where it counts beside the sheets and panels: in fields, in texts too; or only in the running order and sheets, or not on buttons. */
  readonly where?: "texts" | "fields" | "tree" | "outside buttons";
  readonly needs?: "node";
  /** What it does; null where it does nothing now, and is left to the browser. */
  run(pressed: Pressed, parts: KeyParts): (() => void) | null;
}

/** The node itself where it has words to write, or the first of its items that has. */
function firstWritable(node: DocNode): DocNode | null {
  if (!nodeKind(node.type)) return null;
  for (const { node: one, holder } of walkShown(node)) {
    const own = one === node || isItem(one.type);
    if (own && textsOf(one.type).some(({ path }) => isPartShown(one, path, holder))) return one;
  }
  return null;
}

/** A step through the running order. */
const step =
  (by: 1 | -1): Key["run"] =>
  ({ doc, selected, shift: range }, { selection }) =>
  () => {
    const order = ["envelope", ...readingOrder(doc, selected).map((one) => one.id)];
    const next = order[order.indexOf(selected ?? "envelope") + by];
    if (next) selection.select(next, range ? "range" : "one");
  };

const move =
  (by: 1 | -1): Key["run"] =>
  ({ doc, chosen }, { commands }) =>
  () =>
    void commands.run(shift(doc, chosen, by));

export const KEYS: readonly Key[] = [
  {
    keys: "Mod+Enter",
    where: "fields",
    run:
      (_, { panels }) =>
      () =>
        panels.open("blocks", true),
  },
  {
    keys: "Mod+f",
    where: "texts",
    run:
      (_, { panels }) =>
      () =>
        panels.open("find", true),
  },
  {
    keys: "Mod+z",
    run:
      (_, { session }) =>
      () =>
        session.undo(),
  },
  {
    keys: "Mod+y, Mod+Shift+z",
    run:
      (_, { session }) =>
      () =>
        session.redo(),
  },
  {
    keys: "Mod+a",
    where: "tree",
    run:
      ({ doc }, { selection }) =>
      () =>
        selection.select(doc.root.children.map((band) => band.id)),
  },
  { keys: "Alt+ArrowDown", needs: "node", run: move(1) },
  { keys: "Alt+ArrowUp", needs: "node", run: move(-1) },
  { keys: "ArrowDown, Shift+ArrowDown", where: "tree", run: step(1) },
  { keys: "ArrowUp, Shift+ArrowUp", where: "tree", run: step(-1) },
  {
    keys: "ArrowRight",
    where: "tree",
    needs: "node",
    run({ node }, { selection }) {
      const first = node.children.find((child) => child.type !== "column" || child.children.length);
      const into = first?.type === "column" ? first.children[0] : first;
      return into ? () => selection.select(into.id) : null;
    },
  },
  {
    keys: "ArrowLeft",
    where: "tree",
    needs: "node",
    run({ doc, node }, { selection }) {
      const path = pathTo(doc, node.id).filter((one) => one.type !== "column" && one !== doc.root);
      const above = path.at(-2);
      return above ? () => selection.select(above.id) : null;
    },
  },
  {
    keys: "Mod+Alt+c",
    needs: "node",
    run:
      ({ node }, { messages }) =>
      () =>
        messages.announce(copyStyle(node)),
  },
  {
    keys: "Mod+Alt+v",
    needs: "node",
    run:
      ({ doc, chosen }, { commands }) =>
      () =>
        commands.run(pasteStyle(doc, chosen)),
  },
  {
    keys: "Mod+d",
    needs: "node",
    run:
      ({ doc, chosen }, { commands }) =>
      () =>
        commands.run(duplicate(doc, chosen)),
  },
  {
    keys: "Mod+g",
    needs: "node",
    run:
      ({ doc, chosen }, { commands }) =>
      () =>
        commands.run(intoCard(doc, chosen)),
  },
  {
    keys: "Mod+Shift+g",
    needs: "node",
    run:
      ({ doc, chosen }, { commands }) =>
      () =>
        commands.run(intoBand(doc, chosen)),
  },
  {
    keys: "Mod+Space",
    where: "tree",
    needs: "node",
    run:
      ({ node }, { selection }) =>
      () =>
        selection.select(node.id, "toggle"),
  },
  {
    keys: "Delete, Backspace",
    needs: "node",
    run:
      ({ doc, chosen }, { commands }) =>
      () =>
        commands.run(takeOut(doc, chosen)),
  },
  {
    keys: "Escape",
    needs: "node",
    run:
      ({ doc, node }, { selection }) =>
      () =>
        selection.select(find(doc, node.id)?.parent?.id ?? null),
  },
  {
    keys: "Enter",
    where: "outside buttons",
    needs: "node",
    run({ node }, { selection }) {
      const writable = firstWritable(node);
      if (!writable) return null;
      return () => {
        if (writable !== node) selection.select(writable.id);
        selection.write(writable.id);
      };
    },
  },
];
