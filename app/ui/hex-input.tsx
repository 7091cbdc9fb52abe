/** A colour by its digits: with # or without, three or six of them; taken when the field is left. */
import { useState } from "react";
import { hexOf } from "#core/theme/theme.ts";

export function HexInput({
  label,
  value,
  quiet = false,
  onValue,
  onWrong,
  onEmpty,
}: {
  label: string;
  value: string;
  quiet?: boolean;
  /** Gets # and six digits. */
  onValue: (hex: string) => void;
  /** Hears whether what is written is no colour; it stays until it is mended. */
  onWrong?: (wrong: boolean) => void;
  /** Hears that the field was emptied. */
  onEmpty?: () => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const hex = draft === null ? null : hexOf(draft);
  const wrong = draft !== null && draft.trim() !== "" && hex === null;
  return (
    <input
      aria-label={label}
      aria-invalid={wrong || undefined}
      title="Three or six digits from 0 to f, with # or without"
      placeholder="#"
      value={draft ?? value}
      maxLength={12}
      className={`hex w-[62px] rounded-md border border-field px-1 text-small aria-invalid:border-rust ${quiet ? "text-ink-3" : "bg-sheet"}`}
      onChange={(event) => {
        const { value: text } = event.target;
        setDraft(text);
        onWrong?.(text.trim() !== "" && hexOf(text) === null);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
      }}
      onBlur={() => {
        if (hex !== null && hex !== value) onValue(hex);
        if (draft !== null && draft.trim() === "") onEmpty?.();
        if (!wrong) setDraft(null);
      }}
    />
  );
}
