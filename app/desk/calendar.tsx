import clsx from "clsx";

export interface CalendarDay {
  readonly iso: string;
  readonly number: number;
  readonly today: boolean;
  readonly sends: boolean;
}

const DAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"];

/** Three weeks, with the days on which something leaves. */
export function Calendar({ days }: { days: readonly CalendarDay[] }) {
  const rows = [0, 7, 14].map((from) => days.slice(from, from + 7));
  return (
    <table className="w-full rounded-md border bg-sheet text-center" aria-label="The next weeks">
      <thead>
        <tr>
          {DAYS.map((name) => (
            <th key={name} scope="col" className="pt-3 pb-1.5 text-small font-medium text-ink-2">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row[0]!.iso}>
            {row.map((day) => (
              <td key={day.iso} className="px-1 pb-1.5">
                <span
                  className={clsx(
                    "block rounded-md py-1 text-body",
                    day.sends && "bg-plum-soft font-bold text-plum",
                    day.today && "outline-1 outline-ink",
                  )}
                >
                  {day.number}
                  {day.sends && <span className="sr-only">, something goes out</span>}
                </span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
