/** Images on their way, over the foot of the sheets. */
import { UploadList } from "../../ui/upload-list.tsx";
import { useUploading, useUploads } from "./uploading.ts";

export function Uploads() {
  const { dismiss } = useUploading();
  const { uploads } = useUploads("uploads");
  if (uploads.length === 0) return null;
  return (
    <section
      aria-label="Images on their way"
      className="absolute bottom-3 left-3 z-30 flex w-80 flex-col gap-2.5 rounded-md border border-line-strong bg-paper p-3"
    >
      <UploadList uploads={uploads} onDismiss={dismiss} />
    </section>
  );
}
