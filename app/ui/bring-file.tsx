/** A file from this device, sent to the library; what is wrong with it stands at the field. */
import { useState } from "react";
import { ask, wordsOf } from "../ask.ts";
import { FILE_INPUT, Field } from "./field.tsx";
import { fileSize } from "./words.ts";

export function BringFile<T>({
  to,
  label,
  hint,
  accept,
  most,
  onBrought,
}: {
  /** Where it is sent. */
  to: string;
  label: string;
  hint?: string;
  accept: string;
  /** How large it may be, bytes. */
  most: number;
  /** Gets what the library says of it. */
  onBrought: (answer: T) => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  async function send(file: File) {
    setProblem(null);
    if (file.size > most) {
      return setProblem(`It may have at most ${fileSize(most)}; this has ${fileSize(file.size)}.`);
    }
    setBusy(true);
    const body = new FormData();
    body.set("file", file);
    const reply = await ask<T>(to, { body });
    setBusy(false);
    if (reply.kind === "ok") onBrought(reply.body);
    else setProblem(wordsOf(reply, "The file was not kept."));
  }
  return (
    <Field
      label={busy ? "On its way…" : label}
      hint={hint}
      errors={problem === null ? null : [problem]}
    >
      {(ids) => (
        <input
          {...ids}
          type="file"
          accept={accept}
          disabled={busy}
          className={FILE_INPUT}
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            if (file) void send(file);
            target.value = "";
          }}
        />
      )}
    </Field>
  );
}
