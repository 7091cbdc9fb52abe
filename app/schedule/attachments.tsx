/** Files that go with the messages, and what they weigh. */
import { useRef } from "react";
import { useFetcher } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { Button } from "../ui/button.tsx";
import { FILE_INPUT } from "../ui/field.tsx";
import { fileSize } from "../ui/words.ts";

export interface ShownFile {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
}

export const heavyWords = (files: readonly ShownFile[]): string | null => {
  const all = files.reduce((sum, { bytes }) => sum + bytes, 0);
  return all > LIMITS.attachmentsHeavy
    ? `${fileSize(all)} with each message is heavy: many mailboxes refuse or hide it. A link to the file is read more often.`
    : null;
};

export function Attachments({
  campaign,
  files,
}: {
  campaign: string;
  files: readonly ShownFile[];
}) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const form = useRef<HTMLFormElement>(null);
  const address = `/campaigns/${campaign}/attachments`;
  const busy = fetcher.state !== "idle";
  const heavy = heavyWords(files);
  return (
    <section aria-label="Attachments" className="flex flex-col gap-2 border-t pt-5">
      <h2 className="text-head">Attachments</h2>
      {files.length > 0 && (
        <ul className="border-t">
          {files.map(({ id, name, bytes }) => (
            <li key={id} className="flex items-center gap-3 border-b py-1.5">
              <span className="min-w-0 flex-1 break-all">{name}</span>
              <span className="text-small text-ink-2">{fileSize(bytes)}</span>
              <fetcher.Form method="post" action={address}>
                <Button
                  type="submit"
                  name="remove"
                  value={id}
                  disabled={busy}
                  aria-label={`Take ${name} out`}
                >
                  Take it out
                </Button>
              </fetcher.Form>
            </li>
          ))}
        </ul>
      )}
      {heavy && <p className="text-small font-semibold text-saffron-ink">{heavy}</p>}
      {files.length < LIMITS.attachments && (
        <fetcher.Form
          ref={form}
          method="post"
          action={address}
          encType="multipart/form-data"
          className="flex flex-wrap items-center gap-2"
        >
          <label className="text-small text-ink-2">
            A file for every reader: an invitation for calendars (ICS), a PDF, anything up to{" "}
            {LIMITS.attachmentBytes / 1_000_000} MB
            <input
              type="file"
              name="file"
              aria-label="File to attach"
              disabled={busy}
              className={`${FILE_INPUT} mt-1`}
              onChange={() => {
                form.current?.requestSubmit();
                form.current?.reset();
              }}
            />
          </label>
        </fetcher.Form>
      )}
      {fetcher.data?.problem && !busy && (
        <p role="alert" className="font-semibold text-rust">
          {fetcher.data.problem}
        </p>
      )}
    </section>
  );
}
