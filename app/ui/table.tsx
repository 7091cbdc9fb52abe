import type { ReactNode } from "react";

export interface Column<Row> {
  readonly title: string;
  readonly cell: (row: Row) => ReactNode;
  readonly right?: boolean;
}

/** A plain table with hairlines. */
export function Table<Row>({
  label,
  columns,
  rows,
  keyOf,
}: {
  label: string;
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  keyOf: (row: Row) => string | number;
}) {
  return (
    // In a small window the table scrolls, not the page.
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left" aria-label={label}>
        <thead>
          <tr className="border-line-strong border-b">
            {columns.map((column) => (
              <th
                key={column.title}
                scope="col"
                className={`px-1.5 py-2 text-small font-semibold text-ink-2 ${column.right ? "text-right" : ""}`}
              >
                {column.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={keyOf(row)} className="border-b align-middle">
              {columns.map((column) => (
                <td
                  key={column.title}
                  className={`px-1.5 py-2.5 ${column.right ? "text-right" : ""}`}
                >
                  {column.cell(row)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
