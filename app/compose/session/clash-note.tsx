/** Two people wrote in the same text: it is said without a word being taken, and both versions stay until one is chosen. */
import { useState } from "react";
import { labelOf } from "#core/blocks/index.ts";
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, find, walk } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import { docText } from "#core/markup/index.ts";
import type { TextJson } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { useEmail, useSession } from "./session.ts";
import type { Kept } from "./unsent.ts";

const KINDS = ["doc", "phrase", "line"];

/** The words of a text for comparing, tags in braces. */
function wordsOfText(text: TextJson): string {
  const whole =
    text.type === "doc" ? text : { type: "doc", content: [{ ...text, type: "paragraph" }] };
  return docText(whole, "")
    .segments.map((s) =>
      typeof s === "string" ? s : s.slot === "tag" ? `{${s.tag.ref.split(":")[1]}}` : "",
    )
    .join("");
}

/** Every word in a value: its texts, and what was written by hand. */
function wordsOf(value: Json): string {
  if (typeof value !== "object" || value === null) return "";
  if (Array.isArray(value)) return value.map(wordsOf).filter(Boolean).join("\n");
  const object = value as { readonly [name: string]: Json };
  if (KINDS.includes(object.type as string)) return wordsOfText(value as unknown as TextJson);
  if (typeof object.source === "string") return object.source;
  return Object.values(object).map(wordsOf).filter(Boolean).join("\n");
}
const wordsOfNode = (node: DocNode): string =>
  [...walk(node)]
    .map(({ props: { name: _name, ...props } }) => wordsOf(props))
    .filter(Boolean)
    .join("\n");

function Versions({ clash, onDone }: { clash: Kept; onDone: () => void }) {
  const session = useSession();
  const { doc: newest } = useEmail("doc");
  const { node, path, mine, lost } = clash;
  const there = find(newest, node)?.node;
  const now =
    there && path
      ? path.reduce<Json | undefined>(
          (at, name) => (at as Record<string, Json> | undefined)?.[name],
          there.props,
        )
      : undefined;
  const box = "max-h-40 overflow-auto rounded-md border bg-sheet p-3 whitespace-pre-wrap";
  const settle = (keep: "mine" | "theirs") => {
    session.settle(clash.id, keep);
    onDone();
  };
  return (
    <div className="flex flex-col gap-3">
      <p className="text-ink-2">
        {lost
          ? `The ${labelOf(lost.node).toLowerCase()} you were writing in was deleted by somebody else.`
          : there
            ? `Both of you changed the same words of: ${nameOf(there)}.`
            : "The block with this text is gone."}
      </p>
      <section aria-label="Yours">
        <h3 className="mb-1">Yours</h3>
        <div className={box}>{lost ? wordsOfNode(lost.node) : wordsOf(mine)}</div>
      </section>
      {!lost && (
        <section aria-label="Theirs, saved">
          <h3 className="mb-1">Theirs, saved</h3>
          <div className={box}>{now === undefined ? "It is gone." : wordsOf(now)}</div>
        </section>
      )}
      <div className="flex gap-2">
        {lost ? (
          <>
            <Button primary onClick={() => settle("mine")}>
              Put it back with my words
            </Button>
            <Button onClick={() => settle("theirs")}>Leave it out</Button>
          </>
        ) : (
          <>
            <Button primary onClick={() => settle("theirs")}>
              Keep theirs
            </Button>
            {there && <Button onClick={() => settle("mine")}>Use mine instead</Button>}
          </>
        )}
      </div>
    </div>
  );
}

export function ClashNote({ clashes }: { clashes: readonly Kept[] }) {
  const [open, setOpen] = useState(false);
  const [first] = clashes;
  if (!first) return null;
  const what = first.lost
    ? "Somebody else deleted what you were writing in"
    : "Somebody else changed words that you were changing";
  const more = clashes.length > 1 ? `, and there is more like it (${clashes.length} in all)` : "";
  return (
    <div
      role="status"
      className="flex items-center gap-3 border-b border-saffron bg-saffron-soft px-3.5 py-1.5 text-small"
    >
      <span>
        {what}
        {more}. Your words are kept.
      </span>
      <Button onClick={() => setOpen(true)}>{first.lost ? "Look at it" : "Look at both"}</Button>
      <Dialog
        title={first.lost ? "What you wrote in is gone" : "Two versions of the same words"}
        open={open}
        onOpenChange={setOpen}
      >
        <Versions key={first.id} clash={first} onDone={() => setOpen(clashes.length > 1)} />
      </Dialog>
    </div>
  );
}
