/** Sending a picture to the library, with how far it has come. */
import { z } from "zod";
import type { Picture } from "#core/kinds/kind.ts";

/** The picture files among what is dropped or pasted. */
export const pictureFiles = (transfer: Pick<DataTransfer, "files">): File[] =>
  [...transfer.files].filter((file) => file.type.startsWith("image/"));

export class UploadError extends Error {
  constructor(
    message: string,
    readonly shrinkable: boolean,
  ) {
    super(message);
  }
}

const answerSchema = z.object({
  picture: z.custom<Picture>().optional(),
  error: z.string().optional(),
  shrinkable: z.boolean().optional(),
});

/** Uploads a file; `onShare` hears the share that is sent, 0–1. Throws an UploadError with words for the person. */
export function uploadPicture(
  file: File,
  {
    shrink = false,
    folder = "",
    onShare,
  }: { shrink?: boolean; folder?: string; onShare?: (share: number) => void } = {},
): Promise<Picture> {
  return new Promise((done, fail) => {
    const body = new FormData();
    body.set("file", file);
    if (shrink) body.set("shrink", "yes");
    if (folder) body.set("folder", folder);
    // Only this, of all ways to send, tells how much has been sent.
    const request = new XMLHttpRequest();
    request.open("POST", "/library/pictures");
    request.responseType = "json";
    request.upload.onprogress = ({ loaded, total }) => onShare?.(total ? loaded / total : 0);
    request.onerror = () =>
      fail(new UploadError("The image could not be uploaded. Try again.", false));
    request.onload = () => {
      const answer = answerSchema.safeParse(request.response);
      if (answer.data?.picture) done(answer.data.picture);
      else {
        const { error = "The image was not taken.", shrinkable = false } = answer.data ?? {};
        fail(new UploadError(error, shrinkable));
      }
    };
    request.send(body);
  });
}
