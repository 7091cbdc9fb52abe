/** Images on their way to the library, as the composer hands them down. */
import type { Uploading } from "../../ui/uploading.ts";
import { handedDown, readsOf } from "../shared.ts";

export const { Provider: UploadingProvider, use: useUploading } = handedDown<Uploading>("uploads");
export const useUploads = readsOf(useUploading);
