/** The language the sheets show: the reader's own, or one that is chosen. */
import type { EmailProps } from "#core/blocks/layout.ts";
import { languageName } from "#core/languages/index.ts";
import { Select } from "../../ui/select.tsx";
import { useReading } from "../reading/reading.ts";

export function LanguageChoice({
  language,
  onLanguage,
}: {
  language: string | null;
  onLanguage: (lang: string | null) => void;
}) {
  const { doc, lang: shown } = useReading("doc", "lang");
  const { lang, others } = doc.root.props as unknown as EmailProps;
  if (others.length === 0) return null;
  const own = languageName(shown);
  return (
    <Select
      label="Language of the sheets"
      value={language ?? ""}
      none={language === null ? `${own}, the reader’s` : "The reader’s"}
      options={[lang, ...others].map((one) => ({ value: one, label: languageName(one) }))}
      onValue={(next) => onLanguage(next || null)}
      look="rounded-md border border-field bg-sheet px-1.5 py-1 text-small"
      className="max-w-40"
    />
  );
}
