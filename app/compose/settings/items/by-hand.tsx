/** Items picked by hand, in their order. */
import { ArrowDown, ArrowUp, X } from "lucide-react";
import type { DocNode } from "#core/document/index.ts";
import { type Choice, refOfItem } from "#core/items/index.ts";
import { Button, IconButton } from "../../../ui/button.tsx";
import { useChosen } from "../../live/chosen.ts";
import { usePanels } from "../../panels/open.ts";
import type { Change } from "./by-rule.tsx";

type Picked = NonNullable<Choice["picked"]>;

export function ByHand({
  node,
  picked,
  onChange,
  one,
}: {
  node: DocNode;
  picked: Picked;
  onChange: Change;
  one: boolean;
}) {
  const shown = useChosen(({ shown }) => shown.get(node.id));
  const { open } = usePanels();
  const titles = new Map(shown?.map(({ item }) => [refOfItem(item), item.title]));
  const move = (at: number, by: number) => {
    const next = [...picked];
    next.splice(at + by, 0, ...next.splice(at, 1));
    onChange({ picked: next });
  };
  return (
    <div className="flex flex-col gap-2">
      {picked.length === 0 && (
        <p className="text-small text-ink-3">
          {one
            ? "Nothing is picked: take one from the items."
            : "Nothing is picked yet: take some from the items."}
        </p>
      )}
      <ol className="flex flex-col gap-1">
        {picked.map((item, i) => {
          const name = titles.get(refOfItem(item));
          return (
            <li key={refOfItem(item)} className="flex items-center gap-1">
              <span className="min-w-0 flex-1 truncate">
                {name ?? <span className="text-rust">gone from its source</span>}
              </span>
              {picked.length > 1 && (
                <>
                  <IconButton label={`${name}: up`} disabled={i === 0} onClick={() => move(i, -1)}>
                    <ArrowUp />
                  </IconButton>
                  <IconButton
                    label={`${name}: down`}
                    disabled={i === picked.length - 1}
                    onClick={() => move(i, 1)}
                  >
                    <ArrowDown />
                  </IconButton>
                </>
              )}
              <IconButton
                label={`Take out: ${name ?? "what is gone"}`}
                onClick={() => onChange({ picked: picked.filter((_, at) => at !== i) })}
              >
                <X />
              </IconButton>
            </li>
          );
        })}
      </ol>
      <div>
        <Button onClick={() => open("items", node.id)}>Pick from the items…</Button>
      </div>
    </div>
  );
}
