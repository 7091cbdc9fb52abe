/** A colour of an image's own: a swatch that opens the device's choice, and its digits. */
import { HexInput } from "../ui/hex-input.tsx";

export function ColourInput({
  label,
  value,
  onValue,
}: {
  label: string;
  value: string;
  onValue: (hex: string) => void;
}) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <input
        type="color"
        aria-label={`${label}: choose`}
        value={value}
        onChange={({ target }) => onValue(target.value)}
        className="h-7 w-8 cursor-pointer rounded-md border border-field bg-sheet p-0.5"
      />
      <HexInput label={label} value={value} onValue={onValue} />
    </span>
  );
}
