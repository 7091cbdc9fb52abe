/** Images on their way, over the foot of the sheets. */
import { X } from "lucide-react";
import { Progress } from "radix-ui";
import { Button, IconButton } from "../../ui/button.tsx";
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
      {uploads.map(({ id, name, share, error, shrink }) => (
        <div key={id} className="text-small">
          <div className="flex items-center justify-between gap-2">
            <span className="truncate font-semibold">{name}</span>
            {share !== null ? (
              <span className="text-ink-3">{Math.round(share * 100)} %</span>
            ) : (
              <IconButton label={`Leave ${name} out`} onClick={() => dismiss(id)}>
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
    </section>
  );
}
