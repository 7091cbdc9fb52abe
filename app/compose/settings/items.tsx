/** The items of a block as a list: chosen, ordered by drag or with the arrow keys, added, taken out. */
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { GripVertical, Plus, X } from "lucide-react";
import type { DocNode } from "#core/document/index.ts";
import type { AnyItemKind } from "#core/kinds/kind.ts";
import { IconButton } from "../../ui/button.tsx";
import { addItem, moveItem, takeOut } from "../doing/actions.ts";
import { useCommands } from "../doing/commands.ts";
import { useReading } from "../reading/reading.ts";
import { useSelecting } from "../selection/selection.ts";

function Item({ node, name, last }: { node: DocNode; name: string; last: boolean }) {
  const { doc } = useReading("doc");
  const { run } = useCommands();
  const { select } = useSelecting();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: node.id,
  });
  return (
    <li
      ref={setNodeRef}
      data-item={node.id}
      className={`flex items-center gap-1 rounded-md border bg-sheet ${isDragging ? "z-10 border-plum" : ""}`}
      style={{
        transform: transform ? `translateY(${transform.y}px)` : undefined,
        transition,
      }}
    >
      <button
        type="button"
        aria-label={`Move ${name}`}
        className="cursor-grab px-1 py-1.5 text-ink-3"
        {...attributes}
        {...listeners}
      >
        <GripVertical className="size-3.5" aria-hidden />
      </button>
      <button
        type="button"
        className="min-w-0 flex-1 truncate py-1 text-left text-small hover:text-plum"
        onClick={() => select(node.id)}
      >
        {name}
      </button>
      <IconButton
        label={`Take out ${name}`}
        disabled={last}
        onClick={() => {
          const doing = takeOut(doc, [node.id]);
          // The block stays selected, so that the next one can go too.
          if (doing) run({ edit: doing.edit });
        }}
      >
        <X />
      </IconButton>
    </li>
  );
}

/** A click is no drag. One object each for good: with another, all rows are drawn anew. */
const NO_CLICK = { activationConstraint: { distance: 4 } };
const BY_KEYS = { coordinateGetter: sortableKeyboardCoordinates };

export function ItemsList({ parent, kind }: { parent: DocNode; kind: AnyItemKind }) {
  const { doc } = useReading("doc");
  const { run } = useCommands();
  const items = parent.children.filter((child) => child.type === kind.type);
  const sensors = useSensors(
    useSensor(PointerSensor, NO_CLICK),
    useSensor(KeyboardSensor, BY_KEYS),
  );
  const own = items.map((node) => kind.name?.(node.props) ?? "");
  // Two of one name are told apart by their number.
  const nameOf = (i: number) => {
    const name = own[i]! || kind.label;
    return name === own[i] && own.indexOf(name) === own.lastIndexOf(name)
      ? name
      : `${name} ${i + 1}`;
  };
  return (
    <div>
      <div className="mb-1 text-small text-ink-2">{kind.plural}</div>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          if (over) run(moveItem(doc, String(active.id), String(over.id)));
        }}
      >
        <SortableContext items={items.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ul className="flex flex-col gap-1" aria-label={kind.plural}>
            {items.map((node, i) => (
              <Item key={node.id} node={node} name={nameOf(i)} last={items.length <= kind.least} />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      <button
        type="button"
        className="link mt-1.5 inline-flex items-center gap-1 text-small disabled:text-ink-3"
        disabled={items.length >= kind.most}
        onClick={() => run(addItem(doc, parent.id, kind.type))}
      >
        <Plus className="size-3.5" aria-hidden /> {kind.label}
      </button>
      {items.length >= kind.most && (
        <span className="ml-2 text-small text-ink-3">At most {kind.most}.</span>
      )}
    </div>
  );
}
