/** Images on their way to the library: how far each has come, and what is wrong with those that were refused. */
import { X } from "lucide-react";
import { Progress } from "radix-ui";
import { Button, IconButton } from "./button.tsx";
import type { Upload } from "./uploading.ts";

export function UploadList({
  uploads,
  onDismiss,
}: {
  uploads: readonly Upload[];
  onDismiss: (id: number) => void;
}) {
  return (
    <>
      {uploads.map(({ id, name, share, error, shrink }) => (
        <div key={id} className="text-small">
          <div className="flex items-center justify-between gap-2">
            <span className="truncate font-semibold">{name}</span>
            {share !== null ? (
              <span className="text-ink-3">{Math.round(share * 100)} %</span>
            ) : (
              <IconButton label={`Leave ${name} out`} onClick={() => onDismiss(id)}>
                <X />
              </IconButton>
            )}
          </div>
          {share !== null && (
            <Progress.Root
              value={Math.round(share * 100)}
              aria-label={`Sending ${name}`}
              className="mt-1 h-1 overflow-hidden rounded-full bg-line"
            >
              <Progress.Indicator
                className="h-full bg-plum"
                style={{ width: `${Math.round(share * 100)}%` }}
              />
            </Progress.Root>
          )}
          {error && (
            <p role="alert" className="mt-0.5 font-semibold text-rust">
              {error}
            </p>
          )}
          {shrink && (
            <Button className="mt-1.5" onClick={shrink}>
              Make it smaller and take it
            </Button>
          )}
        </div>
      ))}
    </>
  );
}
