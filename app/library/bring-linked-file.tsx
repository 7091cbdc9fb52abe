/** A file from this device that links may lead to. */
import { LIMITS } from "#core/limits.ts";
import { FILE_TYPES } from "#core/text/index.ts";
import type { LinkedFile } from "#server/store/files.ts";
import { BringFile } from "../ui/bring-file.tsx";

const ENDINGS = Object.keys(FILE_TYPES)
  .map((ending) => `.${ending}`)
  .join(",");

export const BringLinkedFile = ({
  label,
  onBrought,
}: {
  label: string;
  onBrought: (file: LinkedFile) => void;
}) => (
  <BringFile<{ file: LinkedFile }>
    to="/library/files/brought"
    label={label}
    hint="A PDF, a calendar entry, a document … Readers get it from here; it makes the email no heavier."
    accept={ENDINGS}
    most={LIMITS.fileBytes}
    onBrought={({ file }) => onBrought(file)}
  />
);
