/** Where blocks are taken from: by dragging up, or with Enter after the selection. */
import { ChevronUp, Columns2, Columns3, Columns4, Rss, Square } from "lucide-react";
import { memo, useEffect, useMemo, useState } from "react";
import { BLOCKS, GROUPS } from "#core/blocks/index.ts";
import type { BlockGroup, BlockKind, Picture } from "#core/kinds/kind.ts";
import { answerTo } from "../../ask.ts";
import { useMedia, WIDE } from "../../ui/media.ts";
import { Popover } from "../../ui/popover.tsx";
import { useOpenPanels, usePanels } from "../panels/open.ts";
import { imageOf } from "../pasting/blocks.ts";
import type { Load } from "../placing/load.ts";
import { useReading } from "../reading/reading.ts";
import { BlockIcon } from "./icons.tsx";
import { MakesWay } from "./makes-way.tsx";
import { SavedGroup } from "./saved.tsx";
import { Takeable } from "./takeable.tsx";
import { useUsage } from "./usage.ts";

function Item({
  id,
  label,
  load,
  icon,
  bare = false,
}: {
  id: string;
  label: string;
  load: Load;
  icon: React.ReactNode;
  /** Only the icon is shown; the label is read aloud and stands in the hint. */
  bare?: boolean;
}) {
  return (
    <Takeable
      name={label}
      load={load}
      data-tray={id}
      className="inline-flex h-7 items-center gap-1.5 px-2 text-small font-medium whitespace-nowrap [&>svg]:size-4 [&>svg]:stroke-[1.6]"
    >
      {icon}
      {bare ? <span className="sr-only">{label}</span> : label}
    </Takeable>
  );
}

const BANDS = [
  { columns: 1, label: "Band", icon: <Square /> },
  { columns: 2, label: "2 columns", icon: <Columns2 /> },
  { columns: 3, label: "3 columns", icon: <Columns3 /> },
  { columns: 4, label: "4 columns", icon: <Columns4 /> },
] as const;

/** How many blocks of a group stand in the tray; the rest are a click away. */
const SHOWN: Record<BlockGroup, number> = {
  words: 3,
  pictures: 1,
  actions: 2,
  layout: 1,
  live: 0,
  own: 1,
};
/** The same on a wide window: the whole tray is in sight, even where those with long names are used most. */
const SHOWN_WIDE: Record<BlockGroup, number> = {
  words: 4,
  pictures: 2,
  actions: 3,
  layout: 2,
  live: 1,
  own: 1,
};

const blockItem = (kind: BlockKind, place: string) => (
  <Item
    key={kind.type}
    id={`${place}${kind.type}`}
    label={kind.label}
    icon={<BlockIcon name={kind.icon} />}
    load={{ kind: "new", type: kind.type }}
  />
);

/** How many pictures of the library stand in the tray. */
const PICTURES = 18;

function LibraryPicture({ picture }: { picture: Picture }) {
  const { doc } = useReading("doc");
  const load = useMemo(
    (): Load => ({ kind: "ready", nodes: [imageOf(doc, picture)], label: picture.name }),
    [doc, picture],
  );
  return (
    <Takeable
      name={picture.name}
      load={load}
      data-tray={`picture:${picture.id}`}
      aria-label={`Image ${picture.name}`}
      className="h-11 w-14 overflow-hidden"
    >
      <img
        src={`/pictures/${picture.file}`}
        alt=""
        draggable={false}
        className="h-full w-full object-cover"
      />
    </Takeable>
  );
}

function LibraryPictures() {
  const [pictures, setPictures] = useState<readonly Picture[]>([]);
  useEffect(() => {
    let stale = false;
    void answerTo<{ pictures: Picture[] }>("/library/pictures").then((answer) => {
      if (answer && !stale) setPictures(answer.pictures.slice(0, PICTURES));
    });
    return () => {
      stale = true;
    };
  }, []);
  if (pictures.length === 0) return null;
  return (
    <div role="group" aria-label="From the library" className="flex w-full flex-wrap gap-1.5 pt-1">
      {pictures.map((picture) => (
        <LibraryPicture key={picture.id} picture={picture} />
      ))}
    </div>
  );
}

/** Opens and closes the shelf of items. */
function ShelfButton() {
  const { open, close } = usePanels();
  const isOpen = useOpenPanels(({ items }) => items !== undefined);
  return (
    <button
      type="button"
      aria-expanded={isOpen}
      onClick={() => (isOpen ? close("items") : open("items", true))}
      title="Items of feeds, to be dragged onto a sheet"
      className={`inline-flex h-7 items-center gap-1.5 rounded-md border px-2 text-small font-medium whitespace-nowrap hover:border-plum [&>svg]:size-4 [&>svg]:stroke-[1.6] ${isOpen ? "border-plum bg-plum-soft text-plum" : "border-line-strong bg-sheet"}`}
    >
      <Rss aria-hidden /> Items…
    </button>
  );
}

/** What of a group stands in the tray. Drawn by itself, so that a drag does not draw it. */
const Standing = memo(function Standing({ group }: { group: BlockGroup }) {
  const shown = useShown(group);
  return (
    <>
      {group === "layout" &&
        BANDS.map(({ columns, label, icon }) => (
          <Item
            key={columns}
            id={`band${columns}`}
            label={label}
            icon={icon}
            bare={columns > 1}
            load={{ kind: "newBand", columns }}
          />
        ))}
      {shown.map((kind) => blockItem(kind, ""))}
    </>
  );
});

const kindsOf = (group: BlockGroup) => BLOCKS.filter((kind) => kind.group === group);

/** Those used most here stand in front; until then, and among equals, the order of the list holds. */
function useShown(group: BlockGroup): readonly BlockKind[] {
  const used = useUsage();
  const wide = useMedia(WIDE);
  const kinds = kindsOf(group);
  const first = new Set(
    kinds
      .toSorted((a, b) => (used[b.type] ?? 0) - (used[a.type] ?? 0))
      .slice(0, (wide ? SHOWN_WIDE : SHOWN)[group]),
  );
  return kinds.filter((kind) => first.has(kind));
}

function Group({ group, name }: { group: BlockGroup; name: string }) {
  const [open, setOpen] = useState(false);
  const kinds = kindsOf(group);
  const shown = useShown(group);
  return (
    <div
      role="group"
      aria-label={name}
      className="flex-none border-l px-2 pt-2 first:border-l-0 first:pl-1"
    >
      <div className="mb-1 font-display text-body text-ink-2 italic">{name}</div>
      <div className="flex gap-1.5">
        <Standing group={group} />
        {group === "live" && <ShelfButton />}
        {kinds.length > shown.length && (
          <Popover
            label={`All of ${name}`}
            open={open}
            onOpenChange={setOpen}
            side="top"
            trigger={
              <button
                type="button"
                aria-label={`All of ${name}`}
                title={`All of ${name}`}
                className="inline-flex h-7 items-center rounded-md border border-transparent px-1 text-ink-2 hover:border-plum hover:text-plum"
              >
                <ChevronUp className="size-4" aria-hidden />
              </button>
            }
          >
            <MakesWay
              close={() => setOpen(false)}
              role="group"
              aria-label={`All of ${name}`}
              className="flex max-w-96 flex-wrap gap-1.5 p-3"
              onClick={() => setOpen(false)}
            >
              {kinds.map((kind) => blockItem(kind, "all:"))}
              {group === "pictures" && <LibraryPictures />}
            </MakesWay>
          </Popover>
        )}
      </div>
    </div>
  );
}

export function Tray() {
  return (
    <section
      aria-label="Tray"
      className="flex h-[76px] flex-none overflow-x-auto border-t bg-paper px-3 max-[560px]:hidden"
    >
      {(Object.entries(GROUPS) as [BlockGroup, string][]).map(([group, name]) => (
        <Group key={group} group={group} name={name} />
      ))}
      <SavedGroup />
    </section>
  );
}
