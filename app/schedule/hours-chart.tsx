/** How many readers get it in each hour of their own day. */
import { hourTime, isQuiet, type Quiet } from "#core/schedule/hours.ts";
import { count } from "../ui/words.ts";

export interface ShownHours {
  readonly hours: readonly number[];
  readonly readers: number;
  readonly silent: number;
}

const HIGH = 96;

export function HoursChart({
  seen: { hours, readers, silent },
  quiet,
}: {
  seen: ShownHours;
  quiet: Quiet | null;
}) {
  const most = Math.max(1, ...hours);
  const top = hours
    .map((n, hour) => ({ n, hour }))
    .filter(({ n }) => n > 0)
    .sort((a, b) => b.n - a.n)
    .slice(0, 3);
  const share = (n: number) => `${Math.round((100 * n) / Math.max(1, readers))} %`;
  return (
    <figure className="m-0">
      <p className="mb-3 text-ink-2">
        Each reader’s own hour, from what they opened in half a year
        {silent > 0 && <>; the {count(silent)} who opened nothing get that of all the others</>}.
        {quiet && ` Nobody between ${hourTime(quiet.from)} and ${hourTime(quiet.to)}.`}
      </p>
      <div aria-hidden className="flex items-end gap-1 border-b" style={{ height: HIGH }}>
        {hours.map((n, hour) => (
          <span
            key={hourTime(hour)}
            title={`${hourTime(hour)}: ${count(n)}`}
            className={`flex-1 rounded-t-sm ${quiet && isQuiet(hour, quiet) ? "bg-line-strong" : "bg-plum"}`}
            style={{ height: Math.max(2, Math.round((HIGH * n) / most)) }}
          />
        ))}
      </div>
      <div aria-hidden className="mt-1 flex justify-between text-small text-ink-2">
        {[0, 3, 6, 9, 12, 15, 18, 21].map((hour) => (
          <span key={hour} className="w-[12.5%]">
            {hourTime(hour)}
          </span>
        ))}
      </div>
      <figcaption className="mt-1 text-small text-ink-2">
        Most at {top.map(({ n, hour }) => `${hourTime(hour)} (${share(n)})`).join(", ")}.
      </figcaption>
    </figure>
  );
}
