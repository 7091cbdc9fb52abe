/** The one way to choose a picture: what is used here, what came last, all there are by their names, or a new one. */
import clsx from "clsx";
import { Search, Upload } from "lucide-react";
import { type ReactNode, useRef, useState } from "react";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { answerTo, NO_LINE } from "../ask.ts";
import { useAnswer } from "./answer.ts";
import { Button } from "./button.tsx";
import { Dialog } from "./dialog.tsx";
import { INPUT } from "./field.tsx";
import { PICTURE_TYPES, useUpload } from "./upload-picture.tsx";
import { count } from "./words.ts";

interface Found {
  readonly pictures: readonly Picture[];
  readonly total: number;
}

const joined = (found: Found, more: Found): Found => {
  const known = new Set(found.pictures.map(({ id }) => id));
  const others = more.pictures.filter(({ id }) => !known.has(id));
  return { pictures: [...found.pictures, ...others], total: more.total };
};

/** Pictures of the library by their names, more of them when asked. */
function useLibrary(open: boolean, words: string) {
  const from = (n: number, typed: string) =>
    answerTo<Found>(`/library/pictures?${new URLSearchParams({ words: typed, from: `${n}` })}`);
  const { found, asking, add } = useAnswer(words, open ? (typed) => from(0, typed) : null);
  const [cut, setCut] = useState<string | null>(null);
  return {
    found,
    asking,
    lost: found === null || cut === words,
    async more() {
      const next = await from(found!.pictures.length, words);
      setCut(next === null ? words : null);
      if (next) add(next, words, joined);
    },
  };
}

function Grid({
  pictures,
  taken,
  onTake,
}: {
  pictures: readonly Picture[];
  taken: string | null;
  onTake: (picture: Picture) => void;
}) {
  return (
    <ul className="grid grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-2">
      {pictures.map((one) => (
        <li key={one.id}>
          <button
            type="button"
            aria-label={`Take ${one.name}`}
            aria-pressed={one.id === taken}
            title={`${one.name}, ${one.width} × ${one.height}`}
            onClick={() => onTake(one)}
            className={clsx(
              "w-full overflow-hidden rounded-md border bg-sheet text-left hover:border-plum",
              one.id === taken && "outline-2 outline-plum",
            )}
          >
            <img
              src={`/pictures/${one.file}`}
              alt=""
              loading="lazy"
              className="h-20 w-full bg-bench object-contain"
            />
            <span className="block truncate px-1.5 py-1 text-fine text-ink-2">{one.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

export function PicturePicker({
  title = "Choose an image",
  trigger,
  taken,
  here = [],
  onTake,
}: {
  title?: string;
  trigger: ReactNode;
  /** The id of the one that is taken, or null. */
  taken: string | null;
  /** Those that stand in the same email. */
  here?: readonly Picture[];
  onTake: (picture: Picture) => void;
}) {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const { found, asking, lost, more } = useLibrary(open, words);
  const take = (picture: Picture) => {
    setOpen(false);
    onTake(picture);
  };
  const file = useRef<HTMLInputElement>(null);
  const upload = useUpload(take);
  return (
    <Dialog
      title={title}
      wide
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setWords("");
        upload.forget();
      }}
      trigger={trigger}
    >
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <div className="relative flex-1">
          <Search className="absolute top-2 left-2 size-4 text-ink-3" aria-hidden />
          <input
            aria-label="Find an image"
            value={words}
            maxLength={LIMITS.searchLength}
            placeholder="Find an image by its name"
            onChange={(event) => setWords(event.target.value)}
            className={`${INPUT} pl-7.5!`}
          />
        </div>
        <input
          ref={file}
          type="file"
          aria-label="An image from this device"
          accept={PICTURE_TYPES}
          className="peer sr-only"
          onChange={(event) => {
            void upload.send(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
        <Button
          disabled={upload.busy}
          onClick={() => file.current?.click()}
          tabIndex={-1}
          className="peer-focus-visible:outline-2 peer-focus-visible:outline-plum"
        >
          <Upload className="size-3.5" /> {upload.busy ? "Uploading…" : "Upload"}
        </Button>
      </div>
      {upload.said}
      {here.length > 0 && words === "" && (
        <section aria-label="Used here" className="mb-4">
          <h3 className="mb-1.5 text-lead text-ink-2 italic">Used here</h3>
          <Grid pictures={here} taken={taken} onTake={take} />
        </section>
      )}
      <section aria-label="Library">
        <h3 className="mb-1.5 text-lead text-ink-2 italic">
          {words === "" ? "Latest" : found ? `${count(found.total)} found` : "…"}
        </h3>
        {lost && <p className="text-saffron-ink">{NO_LINE}</p>}
        {found?.total === 0 && !asking && (
          <p role="status" className="py-4 text-ink-3">
            {words === "" ? "No images yet: upload the first." : "No matches."}
          </p>
        )}
        {found && <Grid pictures={found.pictures} taken={taken} onTake={take} />}
        {found && found.pictures.length < found.total && (
          <Button className="mt-3" onClick={() => void more()}>
            Show more of {count(found.total)}
          </Button>
        )}
      </section>
    </Dialog>
  );
}
