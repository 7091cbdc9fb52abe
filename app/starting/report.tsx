/** What became of an email that was made elsewhere, in sentences. */
import type { TakenApart } from "#server/arriving/work.ts";
import { count, counted } from "../ui/words.ts";

const KEPT = [
  ["words", "words"],
  ["links", "links"],
  ["images", "images"],
] as const;

export function Report({
  report: { kept, blocks, rest, stacked, backdrops, counters, cut, came },
  notes,
  missing,
  whole,
  draft,
}: {
  report: Omit<TakenApart, "doc">;
  notes: readonly string[];
  /** Images that could not be had. */
  missing: number;
  whole: boolean;
  draft: boolean;
}) {
  const said = [
    ...notes,
    ...(cut ? ["It has more elements than can be read at once: the end was left out."] : []),
    ...(!draft && came === null ? ["It is too long to be shown as it came."] : []),
    ...(missing > 0
      ? [
          `${counted(missing, "image")} could not be fetched: ${missing === 1 ? "it stays" : "they stay"} where ${missing === 1 ? "it is" : "they are"} on the web.`,
        ]
      : []),
    ...[...new Set(rest.map(({ why }) => why))].map((why) => {
      const times = rest.filter((one) => one.why === why).length;
      return `Stays HTML: ${why}${times > 1 ? ` (${times} times)` : ""}.`;
    }),
    ...(stacked > 0 ? ["Columns within columns stand one under the other now."] : []),
    ...(backdrops.length > 0
      ? ["There is an image behind words: put it behind the band where you want it."]
      : []),
    ...(counters > 0 ? ["An image that only counted who opens it was left out."] : []),
  ];
  return (
    <section aria-label="Report">
      <h2 className="mb-2 text-title">What was kept</h2>
      <dl className="mb-2 grid grid-cols-3 gap-2">
        {KEPT.map(([what, label]) => {
          const [some, all] = kept[what];
          return (
            <div key={what} className="rounded-md border bg-sheet px-2.5 py-2">
              <dt className="text-small text-ink-2">{label}</dt>
              <dd className={some < all ? "font-semibold text-saffron-ink" : "font-semibold"}>
                {some === all ? count(all) : `${count(some)} of ${count(all)}`}
              </dd>
            </div>
          );
        })}
      </dl>
      {!whole && <p className="text-body">It has become {counted(blocks, "block")}.</p>}
      {said.length > 0 && (
        <ul className="mt-2 flex list-disc flex-col gap-1 pl-4 text-small text-ink-2">
          {said.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
    </section>
  );
}
