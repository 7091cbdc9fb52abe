/** The strip over the sheets: whose eyes, which sheets, pictures on or off. */
import {
  ChevronLeft,
  ChevronRight,
  Columns2,
  Columns3,
  ImageOff,
  Layers,
  Link2,
  Monitor,
  Moon,
  Smartphone,
  Sun,
  Unlink2,
} from "lucide-react";
import { type ReactNode, useState } from "react";
import { IconButton } from "../../ui/button.tsx";
import { SMALL, useMedia } from "../../ui/media.ts";
import { PickList } from "../../ui/pick-list.tsx";
import { Popover } from "../../ui/popover.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { fetchReaders, findReaders } from "../reading/readers.ts";
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
      <PickList
        label="Contacts"
        hint="Find a contact"
        empty="No matches."
        find={async (search) =>
          (await findReaders(search))?.map((one) => ({
            key: String(one.id),
            label: one.name,
            shown: (
              <>
                <span className="flex-1 font-semibold">{one.name}</span>
                <span className="truncate text-ink-3">{one.about}</span>
              </>
            ),
            onPick() {
              onReader(one);
              setOpen(false);
            },
          })) ?? null
        }
      />
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
      <span className="mr-1 text-small whitespace-nowrap text-ink-2 max-xl:sr-only">
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
  third,
  onThird,
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
  /** A third sheet stands beside the others; null where there is no room for one. */
  third: boolean;
  onThird: ((third: boolean) => void) | null;
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
        {onThird && (
          <IconButton
            label="A third sheet"
            aria-pressed={third}
            onClick={() => onThird(!third)}
            className={third ? "bg-plum-soft text-plum" : ""}
          >
            <Columns3 />
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
