/** A file of ours as an answer to be downloaded. */
import { type EmailFile, writeFile } from "#core/files/index.ts";
import { fileNameOf } from "#server/export/name.ts";
import { filePictures } from "#server/export/pictures.ts";
import type { Services } from "#server/services.ts";

/** With the pictures that it names. */
export async function ownFile(
  services: Services,
  file: Omit<EmailFile, "pictures">,
): Promise<Response> {
  const text = writeFile({ ...file, pictures: await filePictures(services, file.doc) });
  return new Response(text, {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="${fileNameOf(file.name)}.${file.kind}.json"`,
      "Cache-Control": "no-store",
    },
  });
}
