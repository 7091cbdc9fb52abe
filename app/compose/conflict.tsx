/** Two people wrote in the same text: both versions are shown, and nothing is lost. */
import type { Json } from "#core/json.ts";
import { docText, type TextJson } from "#core/text/index.ts";
import { Button } from "../ui/button.tsx";
import { Dialog } from "../ui/dialog.tsx";
import { useComposer } from "./context.ts";
import type { Conflict } from "./session.ts";

/** The words of a text for comparing, tags in braces. */
const wordsOf = (text: TextJson): string =>
  docText(
    text.type === "doc" ? text : { type: "doc", content: [{ ...text, type: "paragraph" }] },
    "",
  )
    .segments.map((s) =>
      typeof s === "string" ? s : s.slot === "tag" ? `{${s.tag.ref.split(":")[1]}}` : "",
    )
    .join("");

export function ConflictDialog({ conflict }: { conflict: Conflict | null }) {
  const { session, edit } = useComposer();
  if (!conflict) return null;
  const { node, path, mine, theirs } = conflict;
  const box = "max-h-40 overflow-auto rounded-md border bg-sheet p-3 whitespace-pre-wrap";
  return (
    <Dialog
      title="Somebody else changed this text"
      open
      onOpenChange={() => session.settleConflict()}
    >
      <div className="flex flex-col gap-3">
        <section aria-label="Yours">
          <h3 className="mb-1">Yours</h3>
          <div className={box}>{wordsOf(mine)}</div>
        </section>
        <section aria-label="Theirs, saved">
          <h3 className="mb-1">Theirs, saved</h3>
          <div className={box}>{theirs ? wordsOf(theirs) : "The block is gone."}</div>
        </section>
        <div className="flex gap-2">
          <Button primary onClick={() => session.settleConflict()}>
            Keep theirs
          </Button>
          {theirs && (
            <Button
              onClick={() => {
                session.settleConflict();
                edit({ type: "set", node, path: [...path], value: mine as unknown as Json });
              }}
            >
              Use mine instead
            </Button>
          )}
        </div>
      </div>
    </Dialog>
  );
}
