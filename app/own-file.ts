/** A file of ours as an answer to be downloaded. */
import { type Carried, type EmailFile, writeFile } from "#core/files/index.ts";
import { carriedBy } from "#server/export/carried.ts";
import { fileNameOf } from "#server/export/name.ts";
import type { Services } from "#server/services.ts";

/** With all that it needs. */
export async function ownFile(
  services: Services,
  file: Omit<EmailFile, keyof Carried>,
): Promise<Response> {
  const text = writeFile({ ...file, ...(await carriedBy(services, file.doc)) });
  return new Response(text, {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="${fileNameOf(file.name)}.${file.kind}.json"`,
      "Cache-Control": "no-store",
    },
  });
}
