/** Saved blocks and bands, to be dragged onto a sheet like any other. */
import { Bookmark, Link2 } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { linkedTo } from "#core/blocks/linked.ts";
import type { DocNode } from "#core/document/index.ts";
import { answerTo } from "../../ask.ts";
import { Checkbox } from "../../ui/checkbox.tsx";
import { INPUT } from "../../ui/field.tsx";
import { Popover } from "../../ui/popover.tsx";
import type { Load } from "../placing/load.ts";
import { MakesWay } from "./makes-way.tsx";
import { Takeable } from "./takeable.tsx";

interface Saved {
  readonly id: string;
  readonly name: string;
  readonly kind: "band" | "block";
  readonly nodes: readonly DocNode[];
  readonly ships: boolean;
}

/** What ships never changes, and of several each would need a link of its own. */
const mayBeLinked = ({ nodes, ships }: Saved) => nodes.length === 1 && !ships;

function SavedItem({ saved, linked }: { saved: Saved; linked: boolean }) {
  const { id, name } = saved;
  const load = useMemo((): Load => {
    const nodes =
      linked && mayBeLinked(saved)
        ? saved.nodes.map((node) => linkedTo(saved.id, node))
        : saved.nodes;
    return { kind: "ready", nodes, label: saved.name };
  }, [saved, linked]);
  return (
    <Takeable
      name={name}
      load={load}
      data-tray={`saved:${id}`}
      className="flex h-8 w-full items-center px-2.5 text-left text-small font-medium"
    >
      <span className="truncate">{name}</span>
      {linked && mayBeLinked(saved) && (
        <Link2 className="ml-auto size-3.5 flex-none text-plum" aria-label="linked" />
      )}
    </Takeable>
  );
}

/** How long somebody types before it is searched, ms. */
const PAUSE_MS = 200;

export function SavedGroup() {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const [linked, setLinked] = useState(false);
  const [saved, setSaved] = useState<readonly Saved[] | null>(null);
  useEffect(() => {
    if (!open) return;
    let stale = false;
    const timer = setTimeout(
      () => {
        const path = `/library/saved.json?${new URLSearchParams({ search: words })}`;
        void answerTo<{ saved: Saved[] }>(path).then((answer) => {
          if (answer && !stale) setSaved(answer.saved);
        });
      },
      words ? PAUSE_MS : 0,
    );
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [open, words]);
  return (
    <div role="group" aria-label="Saved" className="flex-none border-l px-2 pt-2">
      <div className="mb-1 font-display text-body text-ink-2 italic">Saved</div>
      <Popover
        label="Saved blocks"
        open={open}
        onOpenChange={setOpen}
        side="top"
        trigger={
          <button
            type="button"
            className="inline-flex h-7 items-center gap-1.5 rounded-md border border-line-strong bg-sheet px-2 text-small font-medium whitespace-nowrap hover:border-plum [&>svg]:size-4 [&>svg]:stroke-[1.6]"
          >
            <Bookmark aria-hidden /> Saved…
          </button>
        }
      >
        <MakesWay close={() => setOpen(false)} className="w-72 p-3">
          <input
            type="search"
            aria-label="Search saved blocks"
            placeholder="Search by name"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            className={`${INPUT} mb-2`}
          />
          <Checkbox
            className="mb-2"
            label="Linked: changes wherever the saved one is changed"
            checked={linked}
            onChange={({ target }) => setLinked(target.checked)}
          />
          {/* As high with few as with many: it opens upwards, and the field above would go from under the hand. */}
          {/* biome-ignore lint/a11y/useKeyWithClickEvents: the buttons in it take the keys */}
          <div
            role="group"
            aria-label="Found"
            className="flex h-[min(16rem,40vh)] flex-col gap-1.5 overflow-y-auto"
            onClick={() => setOpen(false)}
          >
            {saved?.map((one) => (
              <SavedItem key={one.id} saved={one} linked={linked} />
            ))}
            {saved?.length === 0 && <p className="text-small text-ink-2">No matches.</p>}
          </div>
        </MakesWay>
      </Popover>
    </div>
  );
}
