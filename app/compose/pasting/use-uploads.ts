/** Picture files on their way to the library, and what becomes of each when it is there. */
import { useCallback, useRef, useState } from "react";
import type { Picture } from "#core/kinds/kind.ts";
import { UploadError, uploadPicture } from "./upload.ts";

export interface Upload {
  readonly id: number;
  readonly name: string;
  /** How much is sent, 0–1; null where it was refused. */
  readonly share: number | null;
  readonly error: string | null;
  /** The same once more, made smaller by the server; null where that would not help. */
  readonly shrink: (() => void) | null;
}

let last = 0;

export function useUploads(): {
  uploads: readonly Upload[];
  /** Sends files one after another, so that they arrive in their order. */
  send(files: readonly File[], onPicture: (picture: Picture) => void): void;
  dismiss(id: number): void;
} {
  const [uploads, setUploads] = useState<readonly Upload[]>([]);
  const queue = useRef(Promise.resolve());
  const change = useCallback((id: number, part: Partial<Upload> | null) => {
    setUploads((all) =>
      all.flatMap((one) => (one.id !== id ? [one] : part ? [{ ...one, ...part }] : [])),
    );
  }, []);
  const send = useCallback(
    (files: readonly File[], onPicture: (picture: Picture) => void) => {
      for (const file of files) {
        const id = ++last;
        const upload = async (shrink: boolean) => {
          change(id, { share: 0, error: null, shrink: null });
          try {
            const onShare = (share: number) => change(id, { share });
            onPicture(await uploadPicture(file, { shrink, onShare }));
            change(id, null);
          } catch (error) {
            if (!(error instanceof UploadError)) throw error;
            const again = () => {
              queue.current = queue.current.then(() => upload(true));
            };
            const offer = error.shrinkable && !shrink ? again : null;
            change(id, { share: null, error: error.message, shrink: offer });
          }
        };
        setUploads((all) => [...all, { id, name: file.name, share: 0, error: null, shrink: null }]);
        queue.current = queue.current.then(() => upload(false));
      }
    },
    [change],
  );
  const dismiss = useCallback((id: number) => change(id, null), [change]);
  return { uploads, send, dismiss };
}
