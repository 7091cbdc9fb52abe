/** A place where images are dropped, pasted or chosen, several at once; their alt texts are asked for at once. */
import { Upload } from "lucide-react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { useFetcher, useRevalidator } from "react-router";
import { useStore } from "zustand";
import type { Picture } from "#core/kinds/kind.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { INPUT } from "../ui/field.tsx";
import { pictureFiles } from "../ui/upload.ts";
import { UploadList } from "../ui/upload-list.tsx";
import { PICTURE_TYPES } from "../ui/upload-picture.tsx";
import { createUploading } from "../ui/uploading.ts";

/** What one that has just come shows. */
function AltText({ picture, onDone }: { picture: Picture; onDone: () => void }) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [decorative, setDecorative] = useState(false);
  const said = fetcher.state === "idle" && fetcher.data?.problem === null;
  useEffect(() => {
    if (said) onDone();
  }, [said, onDone]);
  return (
    <fetcher.Form
      method="post"
      action={`/library/image/${picture.id}/said`}
      className="flex items-center gap-2"
    >
      <img
        src={`/pictures/${picture.file}`}
        alt=""
        className="h-11 w-14 flex-none object-contain"
      />
      <input
        name="alt"
        aria-label={`Alt text of ${picture.name}`}
        placeholder={`What “${picture.name}” shows`}
        defaultValue={picture.alt}
        disabled={decorative}
        className={INPUT}
      />
      <Checkbox
        name="decorative"
        label="Decoration"
        checked={decorative}
        onChange={({ target }) => setDecorative(target.checked)}
      />
      <Button type="submit" disabled={fetcher.state !== "idle"}>
        Keep
      </Button>
    </fetcher.Form>
  );
}

export function UploadArea({ folder, children }: { folder: string; children: ReactNode }) {
  const [uploading] = useState(() => createUploading());
  const uploads = useStore(uploading.store, (state) => state.uploads);
  const [come, setCome] = useState<readonly Picture[]>([]);
  const [over, setOver] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { revalidate } = useRevalidator();
  const send = (files: readonly File[]) =>
    uploading.send(
      files,
      (picture) => {
        if (!picture.alt && !picture.decorative) {
          setCome((before) => [...before.filter(({ id }) => id !== picture.id), picture]);
        }
        void revalidate();
      },
      { folder },
    );
  const sending = useRef(send);
  sending.current = send;
  useEffect(() => {
    const pasted = (event: ClipboardEvent) => {
      const files = event.clipboardData ? pictureFiles(event.clipboardData) : [];
      if (files.length > 0) sending.current(files);
    };
    document.addEventListener("paste", pasted);
    return () => document.removeEventListener("paste", pasted);
  }, []);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: files can be chosen and pasted as well
    <div
      className={`min-w-0 flex-1 rounded-md ${over ? "outline-2 outline-plum" : ""}`}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes("Files")) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={({ currentTarget, relatedTarget }) => {
        // It tells of every child that is left as well.
        if (!currentTarget.contains(relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        send(pictureFiles(event.dataTransfer));
      }}
    >
      <div className="mb-3 flex items-center gap-3 rounded-md border border-line-strong border-dashed px-3 py-2.5 text-ink-2">
        <input
          ref={file}
          type="file"
          multiple
          aria-label="Images from this device"
          accept={PICTURE_TYPES}
          className="peer sr-only"
          onChange={({ target }) => {
            send([...(target.files ?? [])]);
            target.value = "";
          }}
        />
        <Button
          onClick={() => file.current?.click()}
          tabIndex={-1}
          className="peer-focus-visible:outline-2 peer-focus-visible:outline-plum"
        >
          <Upload className="size-3.5" /> Upload
        </Button>
        <span>or drop or paste them here</span>
      </div>
      {uploads.length > 0 && (
        <section aria-label="Images on their way" className="mb-3 flex flex-col gap-2">
          <UploadList uploads={uploads} onDismiss={uploading.dismiss} />
        </section>
      )}
      {come.length > 0 && (
        <section
          aria-label="What they show"
          className="mb-4 flex flex-col gap-2 rounded-md border bg-sheet p-3"
        >
          <div className="flex items-center justify-between">
            <h2 className="text-lead italic">What do they show?</h2>
            <button type="button" className="link text-small" onClick={() => setCome([])}>
              Later
            </button>
          </div>
          {come.map((picture) => (
            <AltText
              key={picture.id}
              picture={picture}
              onDone={() => setCome((before) => before.filter(({ id }) => id !== picture.id))}
            />
          ))}
        </section>
      )}
      {children}
    </div>
  );
}
