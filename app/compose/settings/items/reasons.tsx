/** What a reader has of the items, why, and how many different choices there are over all readers. */
import { useState } from "react";
import type { DocNode } from "#core/document/index.ts";
import { type Choice, refOfItem } from "#core/items/index.ts";
import { Button } from "../../../ui/button.tsx";
import { count, readers } from "../../../ui/words.ts";
import { useChosen, useChosenItems } from "../../live/chosen.ts";
import { useReading } from "../../reading/reading.ts";
import type { Spread } from "../../wire.ts";

/** What the reader of the sheets has here, and why. */
export function Reasons({ node }: { node: DocNode }) {
  const shown = useChosen(({ shown }) => shown.get(node.id));
  const away = useChosen(({ away }) => away);
  const { readingAs, surroundings } = useReading("readingAs", "surroundings");
  if (away)
    return (
      <p className="text-small text-rust">There is no connection: what stands here is of before.</p>
    );
  if (!shown) return null;
  return (
    <section aria-label="What is shown, and why" className="flex flex-col gap-1 border-t pt-2.5">
      <h3 className="font-display text-lead">
        {readingAs ? `What ${readingAs.name} gets, and why` : "What is shown, and why"}
      </h3>
      {shown.length === 0 && <p className="text-small text-saffron-ink">Nothing fits.</p>}
      <ul>
        {shown.map(({ item, why }) => {
          const picture = item.picture && surroundings.pictures.get(item.picture);
          return (
            <li key={refOfItem(item)} className="flex items-center gap-2.5 border-b py-1.5">
              {picture ? (
                <img
                  src={`/pictures/${picture.file}`}
                  alt=""
                  className="size-9 flex-none rounded object-cover"
                />
              ) : (
                <span className="size-9 flex-none rounded bg-bench" />
              )}
              <span className="min-w-0">
                <span className="block truncate">{item.title}</span>
                <span className="block text-fine text-ink-3">{why}</span>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** How many different choices there are over all readers. */
export function SpreadLine({ node, choice }: { node: DocNode; choice: Choice }) {
  const chosen = useChosenItems();
  const { doc } = useReading("doc");
  const [known, setKnown] = useState<{ of: string; spread: Spread | null } | null>(null);
  const asked = JSON.stringify(choice);
  const fresh = known?.of === asked ? known.spread : null;
  return (
    <div className="flex flex-col gap-1.5">
      {fresh ? (
        <p className="flex items-center gap-2.5">
          <span className="font-display text-display">{count(fresh.different)}</span>
          <span className="text-small text-ink-2">
            different choices for {readers(fresh.readers)}
            {fresh.fewer > 0 && (
              <span className="block text-saffron-ink">{readers(fresh.fewer)} get fewer</span>
            )}
            {fresh.none > 0 && (
              <span className="block text-saffron-ink">{readers(fresh.none)} get none</span>
            )}
          </span>
        </p>
      ) : (
        <div>
          <Button
            onClick={async () => {
              const spread = await chosen.count(doc, node.id);
              setKnown({ of: asked, spread });
            }}
          >
            Count the choices
          </Button>
        </div>
      )}
    </div>
  );
}
