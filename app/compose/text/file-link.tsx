/** A file of the library that a link leads to: one that is there, or another from this device. */
import { useRef } from "react";
import type { Link } from "#core/text/index.ts";
import { BringLinkedFile } from "../../library/bring-linked-file.tsx";
import { Field } from "../../ui/field.tsx";
import { finderOf } from "../../ui/finder.ts";
import { Select } from "../../ui/select.tsx";

type FileLink = Extract<Link, { kind: "file" }>;

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
      <BringLinkedFile
        label="Another, from this device"
        onBrought={({ file, name }) => take(file, name)}
      />
    </>
  );
}
