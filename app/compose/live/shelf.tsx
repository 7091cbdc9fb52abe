/** The shelf above the tray: items of sources, searched, to be dragged onto a sheet. */
import clsx from "clsx";
import { Search, X } from "lucide-react";
import { type KeyboardEvent, useMemo, useState } from "react";
import { Link } from "react-router";
import { ARTICLE, articleProps, linkedItems } from "#core/blocks/article.ts";
import { choicesIn } from "#core/blocks/choices.ts";
import { blockKind } from "#core/blocks/index.ts";
import { theOf } from "#core/blocks/names.ts";
import { type DocNode, find } from "#core/document/index.ts";
import { type Choice, itemRef, newChoice, toldItem } from "#core/items/index.ts";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { answerTo, NO_LINE } from "../../ask.ts";
import { useAnswer } from "../../ui/answer.ts";
import { Button } from "../../ui/button.tsx";
import { INPUT } from "../../ui/field.tsx";
import { Select } from "../../ui/select.tsx";
import { count } from "../../ui/words.ts";
import { useCommands } from "../doing/commands.ts";
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

/** The block that an item of a kind becomes. */
const BLOCK_OF: Readonly<Record<string, string>> = { catalogue: "product", calendar: "event" };

function loadOf(source: string, kind: string, item: ShelfItem): Load {
  const { key } = item;
  const type = BLOCK_OF[kind];
  if (type) {
    const choice = newChoice({ picked: [{ source, key }], count: 1 });
    return { kind: "new", type, props: { choice: choice as unknown as Json } };
  }
  const told = toldItem({ ...item, picture: item.picture?.id ?? null });
  return { kind: "new", type: ARTICLE, props: articleProps(source, key, told) };
}

function Card({
  source,
  kind,
  item,
  used,
  onPick,
}: {
  source: string;
  kind: string;
  item: ShelfItem;
  used: boolean;
  /** Takes it into a block that items are picked for; null where it becomes a block. */
  onPick: (() => void) | null;
}) {
  const load = useMemo(() => loadOf(source, kind, item), [source, kind, item]);
  return (
    <Takeable
      name={item.title}
      load={load}
      {...(onPick && {
        title: `${item.title}: press Enter to pick it, or drag it onto a sheet`,
        onClick: onPick,
      })}
      data-item={item.key}
      className="flex w-[150px] flex-none flex-col overflow-hidden text-left"
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
          {used ? "in this email" : item.about}
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

/** How old items may be that are looked for. */
const WITHIN = [
  { value: "7", label: "The last 7 days" },
  { value: "30", label: "The last 30 days" },
  { value: "365", label: "The last year" },
];

/** Picks an item for a block that shows some picked by hand; null where there is no such block. */
function usePicking(node: DocNode | null) {
  const { edit } = useCommands();
  const choice = node?.props.choice as unknown as Choice | undefined;
  if (!node || !choice?.picked) return null;
  const one = blockKind(node.type)?.content.some((it) => it.control === "items" && it.one);
  return (source: string, key: string) => {
    const others = choice.picked!.filter((it) => it.source !== source || it.key !== key);
    const picked = one ? [{ source, key }] : [...others, { source, key }];
    edit({
      ...{ type: "set", node: node.id, path: ["choice", "picked"] },
      value: picked.slice(-LIMITS.choiceItems) as unknown as Json,
    });
  };
}

export default function Shelf({ subject, onClose }: PanelProps) {
  const { doc } = useReading("doc");
  const picked = find(doc, subject)?.node ?? null;
  const pick = usePicking(picked);
  const only = pick && picked ? (blockKind(picked.type)?.items ?? "") : "";
  const [within, setWithin] = useState("");
  const [source, setSource] = useState("");
  const [search, setSearch] = useState("");
  const asked = JSON.stringify([source, search, within, only]);
  const from = (n: number, of: string) => {
    const [id, words, days, kind] = JSON.parse(of) as [string, string, string, string];
    const query = {
      ...(id && { source: id }),
      ...(days && { within: days }),
      ...(kind && { kind }),
      ...{ search: words, from: String(n) },
    };
    return answerTo<ItemPage>(`/library/items?${new URLSearchParams(query)}`);
  };
  const { found, asking, add } = useAnswer(asked, (of) => from(0, of));
  const used = new Set(
    [...linkedItems(doc), ...choicesIn(doc).flatMap(({ choice }) => choice.picked ?? [])].map(
      (one) => itemRef(one.source, one.key),
    ),
  );
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
          + a source
        </Link>
        {pick && (
          <span className="text-small text-ink-2">
            What you take is picked for {theOf(picked!)}.
          </span>
        )}
        {found?.kind === "feed" && (
          <Select
            label="How old"
            none="However old"
            className="ml-auto w-36"
            value={within}
            options={WITHIN}
            onValue={setWithin}
          />
        )}
        <div className={clsx("relative", found?.kind !== "feed" && "ml-auto")}>
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
      <div
        className="flex gap-2.5 overflow-x-auto py-2.5"
        aria-busy={asking}
        data-items
        onKeyDown={walk}
      >
        {found === null && <p className="py-8 text-ink-3">{NO_LINE}</p>}
        {found?.source === null && (
          <p className="py-8 text-ink-3">
            There is no feed, catalogue or calendar yet. Add one in the library, and its items stand
            here.
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
              kind={found.kind!}
              onPick={pick && (() => pick(found.source!, item.key))}
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
