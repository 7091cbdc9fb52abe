/** How many people each two segments share: the darker, the more of those on the left. */
import { count, percent } from "../ui/words.ts";

export function OverlapTable({
  names,
  counts,
}: {
  names: readonly string[];
  counts: readonly (readonly number[])[];
}) {
  return (
    <div className="overflow-x-auto">
      <table className="border-collapse text-small" aria-label="Overlap of segments">
        <thead>
          <tr>
            <td />
            {names.map((name) => (
              <th
                key={name}
                scope="col"
                className="h-28 w-16 px-1 pb-1 text-left align-bottom font-medium text-ink-2"
              >
                <span className="block max-h-28 overflow-hidden [writing-mode:vertical-rl] rotate-180">
                  {name}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {names.map((name, i) => (
            <tr key={name}>
              <th scope="row" className="max-w-52 truncate py-1 pr-3 text-left font-semibold">
                {name}
              </th>
              {names.map((other, j) => {
                const [shared, own] = [counts[i]![j]!, counts[i]![i]!];
                const share = own === 0 ? 0 : shared / own;
                return (
                  <td
                    key={other}
                    title={`${count(shared)} of “${name}” (${percent(shared, own)}) are in “${other}”`}
                    className="border border-line px-2 py-1 text-right font-display text-body"
                    style={{
                      background:
                        i === j
                          ? "var(--bench)"
                          : `color-mix(in srgb, var(--plum-soft) ${Math.round(100 * share)}%, transparent)`,
                    }}
                  >
                    {count(shared)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
