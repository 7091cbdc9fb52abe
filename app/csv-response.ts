/** Rows as a CSV file (RFC 4180), sent as they come. */
import { Readable } from "node:stream";
import { stringify } from "csv-stringify";
import { csvCell } from "#core/export/csv.ts";

export function csvResponse(name: string, rows: AsyncIterable<readonly string[]>): Response {
  async function* safe() {
    for await (const row of rows) yield row.map(csvCell);
  }
  const body = Readable.from(safe()).pipe(stringify({ record_delimiter: "windows", bom: true }));
  return new Response(Readable.toWeb(body) as ReadableStream, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "no-store",
    },
  });
}
