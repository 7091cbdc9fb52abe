/** Picture files on their way to the library, and what becomes of each when it is there. */
import { createStore, type StoreApi } from "zustand";
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

export interface UploadsState {
  readonly uploads: readonly Upload[];
}

export interface Uploading {
  readonly store: Pick<StoreApi<UploadsState>, "getState" | "getInitialState" | "subscribe">;
  /** Sends files one after another, so that they arrive in their order. */
  send(
    files: readonly File[],
    onPicture: (picture: Picture) => void,
    options?: { readonly folder?: string },
  ): void;
  dismiss(id: number): void;
}

/** `upload` sends one file. */
export function createUploading(upload: typeof uploadPicture = uploadPicture): Uploading {
  const store = createStore<UploadsState>(() => ({ uploads: [] }));
  let last = 0;
  let queue = Promise.resolve();
  const change = (id: number, part: Partial<Upload> | null) =>
    store.setState(({ uploads }) => ({
      uploads: uploads.flatMap((one) =>
        one.id !== id ? [one] : part ? [{ ...one, ...part }] : [],
      ),
    }));
  return {
    store,
    send(files, onPicture, { folder } = {}) {
      for (const file of files) {
        const id = ++last;
        const sendOne = async (shrink: boolean) => {
          change(id, { share: 0, error: null, shrink: null });
          try {
            const onShare = (share: number) => change(id, { share });
            onPicture(await upload(file, { shrink, folder, onShare }));
            change(id, null);
          } catch (error) {
            // Whatever went wrong with one, those after it go on.
            if (!(error instanceof UploadError)) {
              change(id, { share: null, error: "The image could not be put in.", shrink: null });
              reportError(error);
              return;
            }
            const again = () => {
              queue = queue.then(() => sendOne(true));
            };
            const offer = error.shrinkable && !shrink ? again : null;
            change(id, { share: null, error: error.message, shrink: offer });
          }
        };
        store.setState(({ uploads }) => ({
          uploads: [...uploads, { id, name: file.name, share: 0, error: null, shrink: null }],
        }));
        queue = queue.then(() => sendOne(false));
      }
    },
    dismiss: (id) => change(id, null),
  };
}
