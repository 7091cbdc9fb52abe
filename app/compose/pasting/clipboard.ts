/** The clipboard: pieces of an email go out and come in, also between campaigns; so do foreign things. */

import { z } from "zod";
import { checkPlace } from "#core/blocks/index.ts";
import {
  type DocNode,
  type EmailDocument,
  find,
  isBlock,
  nodeSchema,
  SCHEMA_VERSION,
  walk,
} from "#core/document/index.ts";
import { parseJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { handTextOf } from "#core/render/index.ts";
import type { Pieces } from "#core/text/from-html.ts";
import { linkFrom, tableFromPlain, wordsFromPlain } from "#core/text/index.ts";
import { pictureFiles } from "../../ui/upload.ts";
import { takeOut } from "../doing/actions.ts";
import type { Commands } from "../doing/commands.ts";
import { inField } from "../keys/keys.ts";
import type { Messages } from "../messages/messages.ts";
import type { Load } from "../placing/load.ts";
import type { Reading, ReadingState } from "../reading/reading.ts";
import type { Selection } from "../selection/selection.ts";
import { blocksFrom, linkText } from "./blocks.ts";

/** The type of our own pieces; others see their plain text. */
const TYPE = "application/x-septima-pieces+json";

const copiedSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  nodes: z.array(nodeSchema).min(1).max(LIMITS.nodesPerDocument),
});

/** What copying and pasting act with. */
interface ClipboardParts {
  readonly reading: Pick<Reading, "store">;
  readonly selection: Pick<Selection, "store">;
  readonly commands: Pick<Commands, "run" | "add" | "addFiles">;
  readonly messages: Messages;
}

export interface Clipboard {
  /**
   * Takes copy, cut and paste where they are about pieces of the email and not about words in a field. What reads HTML
   * is loaded for the first paste of some: a promise settles when that has been put in.
   */
  hear(event: ClipboardEvent): void | Promise<void>;
}

/** Puts the chosen bands or blocks on the clipboard. Gives false where nothing can be copied. */
function copyPieces(
  { doc, surroundings }: Pick<ReadingState, "doc" | "surroundings">,
  chosen: readonly string[],
  clipboard: DataTransfer,
): boolean {
  const nodes = chosen
    .map((id) => find(doc, id)?.node)
    .filter((node): node is DocNode => node !== undefined);
  if (nodes.length === 0 || !nodes.every((n) => n.type === "band" || isBlock(n.type))) return false;
  clipboard.setData(TYPE, JSON.stringify({ schemaVersion: SCHEMA_VERSION, nodes }));
  const blocks = nodes.flatMap((node) => [...walk(node)]).filter((node) => isBlock(node.type));
  clipboard.setData(
    "text/plain",
    blocks.map((block) => handTextOf(doc, block.id, surroundings).source).join("\n\n"),
  );
  return true;
}

/** Our own pieces on the clipboard, checked like everything that comes from outside; null where there are none. */
function copiedPieces(text: string): DocNode[] | null {
  try {
    const { nodes } = copiedSchema.parse(parseJson(text));
    for (const node of nodes) for (const one of walk(node)) checkPlace(one);
    const bands = nodes.every((node) => node.type === "band");
    return bands || nodes.every((node) => isBlock(node.type)) ? nodes : null;
  } catch {
    return null;
  }
}

interface Pasting {
  readonly load: Load | null;
  readonly files: readonly File[];
  /** What the person should know about it. */
  readonly note: string | null;
}

const count = (nodes: readonly DocNode[]) =>
  nodes.length === 1 ? "What was pasted" : `${nodes.length} pasted pieces`;

/** What is on the clipboard: it can be read in the moment of the paste alone. */
interface Pasted {
  readonly own: string;
  readonly html: string;
  readonly plain: string;
  readonly files: readonly File[];
}

const pastedOf = (clipboard: DataTransfer): Pasted => ({
  own: clipboard.getData(TYPE),
  html: clipboard.getData("text/html"),
  plain: clipboard.getData("text/plain"),
  files: pictureFiles(clipboard),
});

const NO_PIECES: Pieces = { pieces: [], cut: false };

/** What a paste outside of a text puts into the email; `found` is what its HTML says. */
function readPaste(
  doc: EmailDocument,
  { own, html, plain, files }: Pasted,
  { pieces, cut }: Pieces,
): Pasting {
  const nothing = { load: null, files: [], note: null };
  const ready = (nodes: DocNode[], note: string | null = null): Pasting =>
    nodes.length
      ? { load: { kind: "ready", nodes, label: count(nodes) }, files: [], note }
      : nothing;
  if (own) {
    const nodes = copiedPieces(own);
    return nodes ? ready(nodes) : { ...nothing, note: "What was copied does not fit this email." };
  }
  if (files.length && !html) return { ...nothing, files };
  const text = plain.trim();
  const link = /\s/.test(text) ? null : linkFrom(text);
  if (link) return ready([linkText(doc, text, link)]);
  const table = tableFromPlain(plain);
  const note = cut ? "It was long: only the beginning was pasted." : null;
  if (pieces.length) return ready(blocksFrom(doc, pieces), note);
  if (files.length) return { ...nothing, files };
  if (table) return ready(blocksFrom(doc, [table]));
  return text ? ready(blocksFrom(doc, [{ kind: "words", words: wordsFromPlain(text) }])) : nothing;
}

export const CLIPBOARD = ["copy", "cut", "paste"] as const;

export const createClipboard = ({
  reading,
  selection,
  commands,
  messages,
}: ClipboardParts): Clipboard => ({
  hear(event) {
    const { clipboardData: data } = event;
    if (!data || event.defaultPrevented || inField(event.target)) return;
    const shown = reading.store.getState();
    const { chosen } = selection.store.getState();
    if (event.type !== "paste") {
      if (!copyPieces(shown, chosen, data)) return;
      event.preventDefault();
      messages.announce(`${chosen.length > 1 ? `${chosen.length} pieces` : "It"} copied`);
      if (event.type === "cut") commands.run(takeOut(shown.doc, chosen));
      return;
    }
    if (shown.fixed !== null) return;
    const pasted = pastedOf(data);
    const take = (found: Pieces): boolean => {
      const { load, files, note } = readPaste(reading.store.getState().doc, pasted, found);
      if (note) messages.say(note);
      if (load) commands.add(load);
      if (files.length) commands.addFiles(files);
      return Boolean(load || files.length);
    };
    if (pasted.own || !pasted.html) {
      if (take(NO_PIECES)) event.preventDefault();
      return;
    }
    event.preventDefault();
    return import("#core/text/from-html.ts").then(
      ({ piecesFromHtml }) => void take(piecesFromHtml(pasted.html)),
      () => messages.say("It could not be pasted. Please try again.", "wrong"),
    );
  },
});
