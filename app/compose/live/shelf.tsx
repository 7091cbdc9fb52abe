/** The shelf above the tray: items of sources, searched, to be dragged onto a sheet. */
import clsx from "clsx";
import { Search, X } from "lucide-react";
import { type KeyboardEvent, useMemo, useState } from "react";
import { Link } from "react-router";
import { ARTICLE, articleProps, linkedItems } from "#core/blocks/article.ts";
import { itemRef } from "#core/items/index.ts";
import { answerTo, NO_LINE } from "../../ask.ts";
import { useAnswer } from "../../ui/answer.ts";
import { Button } from "../../ui/button.tsx";
import { INPUT } from "../../ui/field.tsx";
import { Select } from "../../ui/select.tsx";
import { count } from "../../ui/words.ts";
import type { PanelProps } from "../panels/panel.ts";
import type { Load } from "../placing/load.ts";
import { useReading } from "../reading/reading.ts";
import { Takeable } from "../tray/takeable.tsx";
import type { ItemPage, ShelfItem } from "../wire.ts";

/** So many sources stand side by side; more are in a list. */
const TABS = 5;

const joined = (page: ItemPage, more: ItemPage): ItemPage => {
  const known = new Set(page.items.map(({ id }) => id));
  return { ...more, items: [...page.items, ...more.items.filter(({ id }) => !known.has(id))] };
};

function Card({ source, item, used }: { source: string; item: ShelfItem; used: boolean }) {
  const load = useMemo((): Load => {
    const { key, title, summary, link, picture } = item;
    const told = { title, summary, link, picture: picture?.id ?? null };
    return { kind: "new", type: ARTICLE, props: articleProps(source, key, told) };
  }, [source, item]);
  return (
    <Takeable
      id={`item:${itemRef(source, item.key)}`}
      name={item.title}
      load={load}
      data-item={item.key}
      className="w-[150px] flex-none overflow-hidden text-left"
    >
      {item.picture ? (
        <img
          src={`/pictures/${item.picture.file}`}
          alt=""
          draggable={false}
          loading="lazy"
          className="h-[62px] w-full object-cover"
        />
      ) : (
        <span className="block h-[62px] bg-bench" />
      )}
      <span className="block px-2 py-1.5">
        <span className="line-clamp-2 text-small leading-tight font-semibold">{item.title}</span>
        <span className="block truncate text-fine text-ink-3">
          {used ? "in this email" : [item.day, ...item.categories].join(" · ")}
        </span>
      </span>
    </Takeable>
  );
}

/** The sources there are; the one whose items are shown is marked. */
function Sources({ page, onSource }: { page: ItemPage; onSource: (id: string) => void }) {
  const { sources, source } = page;
  if (sources.length > TABS) {
    return (
      <Select
        label="Feed"
        className="w-72"
        value={source ?? ""}
        options={sources.map(({ id, name, items }) => ({
          value: id,
          label: `${name} · ${count(items)}`,
        }))}
        onValue={onSource}
      />
    );
  }
  return sources.map(({ id, name, items }) => (
    <button
      key={id}
      type="button"
      aria-pressed={id === source}
      onClick={() => onSource(id)}
      className={clsx(
        "border-b-2 pb-0.5 font-display text-lead italic hover:text-plum",
        id === source ? "border-plum text-plum" : "border-transparent text-ink-2",
      )}
    >
      {name} <span className="text-small">{count(items)}</span>
    </button>
  ));
}

/** The arrow keys go from item to item. */
function walk(event: KeyboardEvent<HTMLElement>): void {
  const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
  const items = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-item]")];
  const at = items.indexOf(document.activeElement as HTMLElement);
  if (!by || at < 0) return;
  event.preventDefault();
  event.stopPropagation();
  items[Math.min(items.length - 1, Math.max(0, at + by))]?.focus();
}

export default function Shelf({ onClose }: PanelProps) {
  const { doc } = useReading("doc");
  const [source, setSource] = useState("");
  const [search, setSearch] = useState("");
  const asked = JSON.stringify([source, search]);
  const from = (n: number, of: string) => {
    const [id, words] = JSON.parse(of) as [string, string];
    const query = { ...(id && { source: id }), search: words, from: String(n) };
    return answerTo<ItemPage>(`/library/items?${new URLSearchParams(query)}`);
  };
  const { found, add } = useAnswer(asked, (of) => from(0, of));
  const used = new Set(linkedItems(doc).map((one) => itemRef(one.source, one.key)));
  return (
    <section
      aria-label="Items"
      className="border-t bg-paper px-3 pt-2"
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        onClose();
      }}
    >
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        {found && <Sources page={found} onSource={setSource} />}
        <Link
          to="/library/feeds"
          className="font-display text-lead text-ink-3 italic hover:text-plum"
        >
          + a feed
        </Link>
        <div className="relative ml-auto">
          <Search className="absolute top-2 left-2 size-4 text-ink-3" aria-hidden />
          <input
            aria-label="Search items"
            value={search}
            placeholder="Words, names, categories"
            onChange={(event) => setSearch(event.target.value)}
            className={`${INPUT} w-52! pl-7.5`}
          />
        </div>
        <Button aria-label="Close the items" onClick={onClose}>
          <X className="size-4" aria-hidden />
        </Button>
      </div>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: arrows between the items in it */}
      <div className="flex gap-2.5 overflow-x-auto py-2.5" onKeyDown={walk}>
        {found === null && <p className="py-8 text-ink-3">{NO_LINE}</p>}
        {found?.source === null && (
          <p className="py-8 text-ink-3">
            There is no feed yet. Add one in the library, and its items stand here.
          </p>
        )}
        {found?.source && found.items.length === 0 && (
          <p className="py-8 text-ink-3">
            {search ? "No matches. Try fewer letters." : "It has no items yet."}
          </p>
        )}
        {found?.source &&
          found.items.map((item) => (
            <Card
              key={item.id}
              source={found.source!}
              item={item}
              used={used.has(itemRef(found.source!, item.key))}
            />
          ))}
        {found && found.items.length < found.found && (
          <div className="flex-none self-center">
            <Button
              onClick={async () => {
                const next = await from(found.items.length, asked);
                if (next) add(next, asked, joined);
              }}
            >
              More
            </Button>
          </div>
        )}
      </div>
    </section>
  );
}
