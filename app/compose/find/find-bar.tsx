/** Find and replace, over the sheets. */
import { CaseSensitive, ChevronDown, ChevronUp, WholeWord, X } from "lucide-react";
import { useMemo, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { Button, IconButton } from "../../ui/button.tsx";
import { INPUT } from "../../ui/field.tsx";
import { counted } from "../../ui/words.ts";
import { useCommands } from "../doing/commands.ts";
import { ownStep } from "../doing/doing.ts";
import { useMessages } from "../messages/messages.ts";
import type { PanelProps } from "../panels/panel.ts";
import { useReading } from "../reading/reading.ts";
import { useSelecting } from "../selection/selection.ts";
import { type Match, matchesIn, replaceEdits } from "./find.ts";

const places = (n: number) => counted(n, "place");

export default function FindBar({ onClose }: PanelProps) {
  const { doc, holds } = useReading("doc", "holds");
  const { edit } = useCommands();
  const { select } = useSelecting();
  const { say, announce } = useMessages();
  const [words, setWords] = useState("");
  const [by, setBy] = useState("");
  const [exact, setExact] = useState(false);
  const [whole, setWhole] = useState(false);
  const [at, setAt] = useState(0);
  const matches = useMemo(
    () => matchesIn(doc, { words, exact, whole }),
    [doc, words, exact, whole],
  );
  const index = matches.length ? at % matches.length : 0;
  const current: Match | undefined = matches[index];
  const show = (match: Match | undefined) => {
    if (!match) return;
    select(match.node === doc.root.id ? "envelope" : match.node);
    announce(`${match.where}, ${matches.indexOf(match) + 1} of ${matches.length}`);
  };
  const step = (by: 1 | -1) => {
    if (matches.length === 0) return;
    const next = (index + by + matches.length) % matches.length;
    setAt(next);
    show(matches[next]);
  };
  const replace = (some: readonly Match[]) => {
    const { edits, kept, why } = replaceEdits(doc, some, by, { held: holds });
    if (edits.length === 0) return why === null ? undefined : say(why, "wrong");
    if (!edit(ownStep(edits))) return;
    if (some.length === 1) return show(some[0]);
    const stays = why === null ? "" : ` It stays in ${places(kept)}. ${why}`;
    say(`Replaced in ${places(some.length - kept)}.${stays}`);
  };
  const field = `${INPUT} w-40! py-1!`;
  return (
    <search
      aria-label="Find and replace"
      className="flex flex-none flex-wrap items-center gap-2 border-b bg-paper px-3.5 py-1.5"
    >
      <form
        className="contents"
        onSubmit={(event) => {
          event.preventDefault();
          step(1);
        }}
      >
        <input
          // biome-ignore lint/a11y/noAutofocus: the person has just asked for it
          autoFocus
          aria-label="Find"
          placeholder="Find"
          value={words}
          maxLength={LIMITS.lineLength}
          className={field}
          onChange={(event) => {
            setWords(event.target.value);
            setAt(0);
          }}
          onKeyDown={(event) => {
            if (event.key === "Escape") onClose();
          }}
        />
        <IconButton
          label="Match case"
          aria-pressed={exact}
          className={exact ? "bg-plum-soft text-plum" : ""}
          onClick={() => setExact(!exact)}
        >
          <CaseSensitive />
        </IconButton>
        <IconButton
          label="Whole words only"
          aria-pressed={whole}
          className={whole ? "bg-plum-soft text-plum" : ""}
          onClick={() => setWhole(!whole)}
        >
          <WholeWord />
        </IconButton>
        <span role="status" className="min-w-16 text-small text-ink-2">
          {words === "" ? "" : current ? `${index + 1} of ${matches.length}` : "Not found"}
        </span>
        <IconButton label="Previous" disabled={!current} onClick={() => step(-1)}>
          <ChevronUp />
        </IconButton>
        <IconButton label="Next" disabled={!current} onClick={() => step(1)}>
          <ChevronDown />
        </IconButton>
      </form>
      <input
        aria-label="Replace with"
        placeholder="Replace with"
        value={by}
        maxLength={LIMITS.lineLength}
        className={field}
        onChange={(event) => setBy(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") onClose();
          if (event.key === "Enter" && current) replace([current]);
        }}
      />
      <Button disabled={!current} onClick={() => current && replace([current])}>
        Replace
      </Button>
      <Button disabled={!current} onClick={() => replace(matches)}>
        Replace all
      </Button>
      <IconButton label="Close" className="ml-auto" onClick={onClose}>
        <X />
      </IconButton>
    </search>
  );
}
