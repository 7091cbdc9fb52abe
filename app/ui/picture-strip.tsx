import clsx from "clsx";
import type { Picture } from "#core/kinds/kind.ts";

/** How many stand in a row at most; more are found in the library. */
const SHOWN = 12;

/** Pictures of the library to take one from; the one that is taken stands first where it is not among the first. */
export function PictureStrip({
  pictures,
  taken,
  onTake,
}: {
  pictures: Iterable<Picture>;
  /** The id of the one that is taken, or null. */
  taken: string | null;
  onTake: (id: string) => void;
}) {
  const all = [...pictures];
  const own = all.findIndex(({ id }) => id === taken);
  const shown = own < SHOWN ? all.slice(0, SHOWN) : [all[own]!, ...all.slice(0, SHOWN - 1)];
  return (
    <div
      className="flex gap-1.5 overflow-x-auto p-0.5 pb-1"
      role="group"
      aria-label="From the library"
    >
      {shown.map((one) => (
        <button
          key={one.id}
          type="button"
          title={one.name}
          aria-label={`Take ${one.name}`}
          aria-pressed={one.id === taken}
          onClick={() => onTake(one.id)}
          className={clsx(
            "h-9 w-12 flex-none overflow-hidden rounded border",
            one.id === taken && "outline-2 outline-plum",
          )}
        >
          <img src={`/pictures/${one.file}`} alt="" className="h-full w-full object-cover" />
        </button>
      ))}
    </div>
  );
}
