/** The strip over the sheets: whose eyes, which sheets, pictures on or off. */
import { Command } from "cmdk";
import {
  ChevronLeft,
  ChevronRight,
  Columns2,
  ImageOff,
  Layers,
  Link2,
  Monitor,
  Moon,
  Smartphone,
  Sun,
  Unlink2,
} from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { IconButton } from "../../ui/button.tsx";
import { SMALL, useMedia } from "../../ui/media.ts";
import { Popover } from "../../ui/popover.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { fetchReaders } from "../reading/readers.ts";
import { FindSomeone } from "../who/find-someone.tsx";
import type { ReaderChoice } from "../wire.ts";

export type Sheets = "both" | "wide" | "narrow";

/** The reader's name; opens a search among all contacts. */
export function ReaderSearch({
  reader,
  onReader,
}: {
  reader: ReaderChoice | null;
  onReader: (reader: ReaderChoice) => void;
}) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const [found, setFound] = useState<ReaderChoice[]>([]);
  useEffect(() => {
    if (!open) return;
    let stale = false;
    const timer = setTimeout(async () => {
      const readers = await fetchReaders({ search });
      if (!stale) setFound(readers);
    }, 150);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [open, search]);
  return (
    <Popover
      label="Preview as"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <button
          type="button"
          className="flex min-w-0 items-center gap-2 rounded-md px-1.5 py-1 hover:bg-bench"
        >
          <span className="max-w-40 min-w-14 truncate font-semibold" data-reading-as>
            {reader?.name ?? "nobody"}
          </span>
          {reader?.about && (
            <span className="truncate rounded-full bg-bench px-2 text-fine font-semibold text-ink-2 max-xl:hidden">
              {reader.about}
            </span>
          )}
        </button>
      }
    >
      <Command label="Contacts" shouldFilter={false} className="w-72">
        <Command.Input
          autoFocus
          value={search}
          onValueChange={setSearch}
          placeholder="Find a contact"
          className="w-full border-b bg-transparent px-3 py-2 outline-none"
        />
        <Command.List className="max-h-72 overflow-auto p-1">
          <Command.Empty className="px-2 py-3 text-ink-3">No matches.</Command.Empty>
          {found.map((one) => (
            <Command.Item
              key={one.id}
              value={String(one.id)}
              onSelect={() => {
                onReader(one);
                setOpen(false);
              }}
              className="flex cursor-pointer justify-between gap-3 rounded-md px-2 py-1.5 data-[selected=true]:bg-plum-soft"
            >
              <span className="font-semibold">{one.name}</span>
              <span className="truncate text-ink-3">{one.about}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Popover>
  );
}

/** Reading as: a contact, with steps to the one before and after. */
export function ReadingAs({
  reader,
  onReader,
}: {
  reader: ReaderChoice | null;
  onReader: (reader: ReaderChoice) => void;
}) {
  const go = async (to: "next" | "previous") => {
    const from: Record<string, string> = reader ? { from: String(reader.id) } : {};
    const [next] = await fetchReaders({ to, ...from });
    if (next) onReader(next);
  };
  return (
    <div className="flex min-w-0 items-center gap-1">
      <span className="mr-1 text-small whitespace-nowrap text-ink-2 max-lg:sr-only">
        Preview as
      </span>
      <IconButton label="Previous contact" onClick={() => void go("previous")}>
        <ChevronLeft />
      </IconButton>
      <ReaderSearch reader={reader} onReader={onReader} />
      <IconButton label="Next contact" onClick={() => void go("next")}>
        <ChevronRight />
      </IconButton>
    </div>
  );
}

export function Strip({
  reader,
  onReader,
  sheets,
  onSheets,
  picturesOff,
  onPicturesOff,
  dark,
  onDark,
  everything,
  onEverything,
  together,
  onTogether,
  children,
}: {
  reader: ReaderChoice | null;
  onReader: (reader: ReaderChoice) => void;
  sheets: Sheets;
  onSheets: (sheets: Sheets) => void;
  picturesOff: boolean;
  onPicturesOff: (off: boolean) => void;
  dark: boolean;
  onDark: (dark: boolean) => void;
  /** All alternatives at once. */
  everything: boolean;
  onEverything: (on: boolean) => void;
  together: boolean;
  onTogether: (together: boolean) => void;
  children?: ReactNode;
}) {
  const small = useMedia(SMALL);
  return (
    <div className="flex min-h-[38px] flex-none items-center justify-between gap-4 overflow-x-auto border-b px-3.5">
      <div className="flex min-w-0 items-center gap-1">
        <ReadingAs reader={reader} onReader={onReader} />
        <FindSomeone onReader={onReader} />
      </div>
      <div className="flex items-center gap-2">
        {children}
        <Segmented
          label="Light or dark"
          value={dark ? "dark" : "light"}
          onChange={(value) => onDark(value === "dark")}
          options={[
            { value: "light", label: "As in a light mail program", icon: <Sun /> },
            { value: "dark", label: "As in a dark mail program", icon: <Moon /> },
          ]}
        />
        {!small && (
          <Segmented
            label="Sheets"
            value={sheets}
            onChange={onSheets}
            options={[
              { value: "both", label: "Both sheets", icon: <Columns2 /> },
              { value: "wide", label: "Only the wide sheet", icon: <Monitor /> },
              { value: "narrow", label: "Only the narrow sheet", icon: <Smartphone /> },
            ]}
          />
        )}
        {sheets === "both" && !small && (
          <IconButton
            label="Scroll the sheets together"
            aria-pressed={together}
            onClick={() => onTogether(!together)}
            className={together ? "bg-plum-soft text-plum" : ""}
          >
            {together ? <Link2 /> : <Unlink2 />}
          </IconButton>
        )}
        <IconButton
          label="Show all that only some readers see"
          aria-pressed={everything}
          onClick={() => onEverything(!everything)}
          className={everything ? "bg-saffron-soft text-saffron-ink" : ""}
        >
          <Layers />
        </IconButton>
        <IconButton
          label="Images off"
          aria-pressed={picturesOff}
          onClick={() => onPicturesOff(!picturesOff)}
          className={picturesOff ? "bg-plum-soft text-plum" : ""}
        >
          <ImageOff />
        </IconButton>
      </div>
    </div>
  );
}
