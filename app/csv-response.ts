/** Rows as a CSV file (RFC 4180), sent as they come. */
import { pipeline, Readable } from "node:stream";
import { stringify } from "csv-stringify";
import { csvCell } from "#core/export/csv.ts";

export async function csvResponse(
  name: string,
  rows: AsyncGenerator<readonly string[]>,
): Promise<Response> {
  // What cannot be read at all fails here, while an answer can still say so.
  const head = await rows.next();
  async function* safe() {
    if (!head.done) yield head.value.map(csvCell);
    for await (const row of rows) yield row.map(csvCell);
  }
  const body = stringify({ record_delimiter: "windows", bom: true });
  // A failure half-way breaks the file off; nobody else hears of it.
  pipeline(Readable.from(safe()), body, () => {});
  return new Response(Readable.toWeb(body) as ReadableStream, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "no-store",
    },
  });
}
