/** A file of the library that a link leads to: one that is there, or another from this device. */
import { useRef } from "react";
import { LIMITS } from "#core/limits.ts";
import { FILE_TYPES, type Link } from "#core/text/index.ts";
import type { LinkedFile } from "#server/store/files.ts";
import { BringFile } from "../../ui/bring-file.tsx";
import { Field } from "../../ui/field.tsx";
import { finderOf } from "../../ui/finder.ts";
import { Select } from "../../ui/select.tsx";

type FileLink = Extract<Link, { kind: "file" }>;
const ENDINGS = Object.keys(FILE_TYPES)
  .map((ending) => `.${ending}`)
  .join(",");

export function FileFields({ link, onLink }: { link: FileLink; onLink: (link: Link) => void }) {
  const files = finderOf("files");
  // A file is on its way for a while: it is taken as the link is then.
  const latest = useRef(onLink);
  latest.current = onLink;
  const take = (file: string, name: string) => latest.current({ kind: "file", file, name });
  return (
    <>
      <Field label="File">
        {(ids) => (
          <Select
            {...ids}
            value={link.file}
            hint="Choose one"
            options={link.file ? [{ value: link.file, label: link.name }] : []}
            finder={files}
            onValue={(file) =>
              void files.nameOf(file).then((found) => found && take(file, found.label))
            }
          />
        )}
      </Field>
      <BringFile<{ file: LinkedFile }>
        to="/library/files"
        label="Another, from this device"
        hint="A PDF, a calendar entry, a document … Readers get it from here; it makes the email no heavier."
        accept={ENDINGS}
        most={LIMITS.fileBytes}
        onBrought={({ file: { file, name } }) => take(file, name)}
      />
    </>
  );
}
