/** Uploading one picture, with what is said when it is not taken. */
import { type ReactNode, useState } from "react";
import type { Picture } from "#core/kinds/kind.ts";
import { Button } from "./button.tsx";
import { UploadError, uploadPicture } from "./upload.ts";

export const PICTURE_TYPES = "image/png,image/jpeg,image/gif,image/webp";

export function useUpload(onTaken: (picture: Picture) => void): {
  send: (file: File | undefined, shrink?: boolean) => Promise<void>;
  busy: boolean;
  /** What was wrong, and what can be done about it. */
  said: ReactNode;
  forget: () => void;
} {
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const [offer, setOffer] = useState<File | null>(null);
  const forget = () => {
    setError(null);
    setOffer(null);
  };
  const send = async (file: File | undefined, shrink = false) => {
    if (!file) return;
    setBusy(true);
    forget();
    try {
      onTaken(await uploadPicture(file, { shrink }));
    } catch (problem) {
      if (!(problem instanceof UploadError)) throw problem;
      setError(problem.message);
      if (problem.shrinkable) setOffer(file);
    }
    setBusy(false);
  };
  const said = error && (
    <div className="my-1.5">
      <p role="alert" className="text-small font-semibold text-rust">
        {error}
      </p>
      {offer && (
        <Button className="mt-1.5" onClick={() => void send(offer, true)}>
          Make it smaller and take it
        </Button>
      )}
    </div>
  );
  return { send, busy, said, forget };
}
