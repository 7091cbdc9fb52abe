import clsx from "clsx";
import { Upload } from "lucide-react";
import { useId, useRef, useState } from "react";
import { Button } from "../../../ui/button.tsx";
import { useComposer } from "../../context.ts";
import { UploadError, uploadPicture } from "../../pasting/upload.ts";
import { type Props, useValue } from "./control.ts";

export function PictureControl({ node, control }: Props<"picture">) {
  const { surroundings, addPicture } = useComposer();
  const [id, set] = useValue<string | null>(node, control.path);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const fileId = useId();
  const picture = id ? surroundings.pictures.get(id) : undefined;
  const [offer, setOffer] = useState<File | null>(null);
  const upload = async (chosen: File | undefined, shrink = false) => {
    if (!chosen) return;
    setBusy(true);
    setError(null);
    setOffer(null);
    try {
      const taken = await uploadPicture(chosen, { shrink });
      addPicture(taken);
      set(taken.id);
    } catch (problem) {
      if (!(problem instanceof UploadError)) throw problem;
      setError(problem.message);
      if (problem.shrinkable) setOffer(chosen);
    }
    setBusy(false);
    if (file.current) file.current.value = "";
  };
  return (
    <div>
      <label htmlFor={fileId} className="mb-1 block text-[11.5px] text-ink-2">
        {control.label}
      </label>
      <div className="flex items-center gap-2.5">
        <div className="flex h-14 w-20 flex-none items-center justify-center overflow-hidden rounded-md bg-bench">
          {picture && (
            <img src={`/pictures/${picture.file}`} alt="" className="max-h-full max-w-full" />
          )}
        </div>
        <input
          ref={file}
          id={fileId}
          type="file"
          accept="image/png,image/jpeg,image/gif,image/webp"
          className="peer sr-only"
          onChange={(event) => void upload(event.target.files?.[0])}
        />
        <Button
          disabled={busy}
          onClick={() => file.current?.click()}
          tabIndex={-1}
          className="peer-focus-visible:outline-2 peer-focus-visible:outline-plum"
        >
          <Upload className="size-3.5" /> {busy ? "Sending…" : picture ? "Another" : "Choose"}
        </Button>
      </div>
      {surroundings.pictures.size > 0 && (
        <div
          className="mt-2 flex gap-1.5 overflow-x-auto pb-1"
          role="group"
          aria-label="From the library"
        >
          {[...surroundings.pictures.values()].slice(0, 12).map((one) => (
            <button
              key={one.id}
              type="button"
              title={one.name}
              aria-label={`Take ${one.name}`}
              aria-pressed={one.id === id}
              onClick={() => set(one.id)}
              className={clsx(
                "h-9 w-12 flex-none overflow-hidden rounded border",
                one.id === id && "outline-2 outline-plum",
              )}
            >
              <img src={`/pictures/${one.file}`} alt="" className="h-full w-full object-cover" />
            </button>
          ))}
        </div>
      )}
      {error && (
        <p role="alert" className="mt-1 text-[12px] font-semibold text-rust">
          {error}
        </p>
      )}
      {offer && (
        <Button className="mt-1.5" onClick={() => void upload(offer, true)}>
          Make it smaller and take it
        </Button>
      )}
    </div>
  );
}
