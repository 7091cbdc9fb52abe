/** What an import would do, or did. */
import { Figure } from "../../ui/page.tsx";
import { count } from "../../ui/words.ts";

interface Row {
  readonly line: number;
  /** The mail address, or the name of a record. */
  readonly key: string;
  readonly cells: Readonly<Record<string, string>>;
  readonly before?: Readonly<Record<string, string>>;
}

export function Counts({
  added,
  changed,
  same,
  refused,
  leftOut,
}: Readonly<Record<"added" | "changed" | "same" | "refused" | "leftOut", number>>) {
  return (
    <div className="mb-6 flex gap-12" data-counts>
      <Figure value={count(added)} label="new" />
      <Figure value={count(changed)} label="changed" />
      <Figure value={count(same)} label="stay as they are" />
      <Figure value={count(refused)} label="rows refused" />
      {leftOut > 0 && <Figure value={count(leftOut)} label="without a cell that cannot be read" />}
    </div>
  );
}

function Cell({ row, id }: { row: Row; id: string }) {
  const [now, before] = [row.cells[id], row.before?.[id]];
  if (!row.before || now === undefined || now === before) return <>{now ?? before ?? "–"}</>;
  return (
    <>
      {before && <s className="mr-1 text-ink-3">{before}</s>}
      <ins className="font-semibold no-underline">{now}</ins>
    </>
  );
}

/** A few rows, the fields side by side. */
export function Rows({
  title,
  rows,
  labels,
  keyLabel,
}: {
  title: string;
  keyLabel: string;
  rows: readonly Row[];
  labels: Readonly<Record<string, string>>;
}) {
  if (rows.length === 0) return null;
  const ids = Object.keys(labels).filter((id) =>
    rows.some((row) => row.cells[id] !== undefined || row.before?.[id] !== undefined),
  );
  return (
    <section aria-label={title} className="mb-6">
      <h2 className="mb-1 text-head">{title}</h2>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left text-small">
          <thead>
            <tr className="border-b text-small text-ink-2">
              <th scope="col" className="py-1.5 pr-3">
                Row
              </th>
              <th scope="col" className="py-1.5 pr-3">
                {keyLabel}
              </th>
              {ids.map((id) => (
                <th key={id} scope="col" className="py-1.5 pr-3">
                  {labels[id]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.line} className="border-b">
                <td className="py-1.5 pr-3 text-ink-3">{row.line}</td>
                <td className="py-1.5 pr-3 font-semibold">{row.key}</td>
                {ids.map((id) => (
                  <td key={id} className="max-w-52 truncate py-1.5 pr-3">
                    <Cell row={row} id={id} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
