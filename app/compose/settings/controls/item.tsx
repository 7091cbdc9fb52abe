import { articleChanges, type LinkedItem, takenAnew } from "#core/blocks/article.ts";
import { itemRef, toldItem } from "#core/items/index.ts";
import { Button } from "../../../ui/button.tsx";
import { useCommands } from "../../doing/commands.ts";
import { group } from "../../doing/doing.ts";
import { usePanels } from "../../panels/open.ts";
import { useReading } from "../../reading/reading.ts";
import { type Props, useValue } from "./control.ts";

/** The item a block is linked to: what it is, whether it has changed, and unlinking it. */
export function ItemControl({ node, control }: Props<"item">) {
  const [item, set] = useValue<LinkedItem | null>(node, control.path);
  const { surroundings } = useReading("surroundings");
  const { edit } = useCommands();
  const { open } = usePanels();
  if (!item) {
    return (
      <div className="flex items-center justify-between gap-3">
        <p className="text-small text-ink-3">It is linked to no item of a feed.</p>
        <Button onClick={() => open("items", true)}>Items…</Button>
      </div>
    );
  }
  const known = surroundings.items?.get(itemRef(item.source, item.key));
  const now = known && toldItem(known);
  const changes = now ? articleChanges(item, now) : [];
  return (
    <div className="flex flex-col gap-1.5 rounded-md border p-2.5">
      <p className="text-small">
        <span className="text-ink-3">Linked to </span>“{item.told.title}”
      </p>
      {changes.length > 0 && <p className="text-small text-saffron-ink">{changes.join(" ")}</p>}
      <div className="flex flex-wrap gap-2">
        {now && changes.length > 0 && (
          <Button
            onClick={() => edit(group(takenAnew(node.id, node.props as never, now)))}
            title="What you changed by hand stays."
          >
            Update from the item
          </Button>
        )}
        <Button onClick={() => set(null)} title="It stays as it is, and is no longer updated.">
          Unlink
        </Button>
      </div>
    </div>
  );
}
