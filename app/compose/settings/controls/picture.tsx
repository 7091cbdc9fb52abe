import { Upload } from "lucide-react";
import { useId, useRef, useState } from "react";
import { alternativesOf, derivedIdOf, type PictureValue } from "#core/derived/index.ts";
import { Button } from "../../../ui/button.tsx";
import { Field } from "../../../ui/field.tsx";
import { PictureStrip } from "../../../ui/picture-strip.tsx";
import { Select } from "../../../ui/select.tsx";
import { UploadError, uploadPicture } from "../../pasting/upload.ts";
import { useReader, useReading } from "../../reading/reading.ts";
import { type Props, useValue } from "./control.ts";

export function PictureControl({ node, control }: Props<"picture">) {
  const { surroundings } = useReading("surroundings");
  const { addPicture } = useReader();
  const [id, set] = useValue<string | null>(node, control.path);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const fileId = useId();
  const chooser = id !== null && derivedIdOf(id) !== null ? id : null;
  const choosers = control.same
    ? []
    : [...(surroundings.derived?.values() ?? [])].filter(({ kind }) => kind === "picture");
  const chosenBy = choosers.find((one) => `derived:${one.id}` === chooser);
  // Of several the first is shown.
  const shown = chosenBy ? alternativesOf<PictureValue>(chosenBy)[0]!.value.picture : id;
  const picture = shown ? surroundings.pictures.get(shown) : undefined;
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
      <label htmlFor={fileId} className="mb-1 block text-small text-ink-2">
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
        <div className="mt-2">
          <PictureStrip pictures={surroundings.pictures.values()} taken={id} onTake={set} />
        </div>
      )}
      {choosers.length > 0 && (
        <div className="mt-1.5">
          <Field label="Or chosen for each reader by">
            {(own) => (
              <Select
                {...own}
                value={chooser ?? ""}
                none="nothing: it is the same for all"
                options={choosers.map(({ id, name }) => ({ value: `derived:${id}`, label: name }))}
                onValue={(next) => set(next || null)}
              />
            )}
          </Field>
        </div>
      )}
      {error && (
        <p role="alert" className="mt-1 text-small font-semibold text-rust">
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
