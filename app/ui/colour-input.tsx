/** A colour: a swatch that opens the device's choice, and its digits. */
import { useEffect, useRef, useState } from "react";
import { HexInput } from "./hex-input.tsx";

export function ColourInput({
  label,
  value,
  quiet = false,
  onValue,
  onEmpty,
}: {
  label: string;
  value: string;
  /** It is not one of its own. */
  quiet?: boolean;
  /** Gets # and six digits, once the choice is made: on the way to it the device tells of hundreds. */
  onValue: (hex: string) => void;
  /** Hears that its digits were taken away. */
  onEmpty?: () => void;
}) {
  const [picked, setPicked] = useState<string | null>(null);
  const swatch = useRef<HTMLInputElement>(null);
  const take = useRef(onValue);
  take.current = onValue;
  useEffect(() => {
    const input = swatch.current;
    // The browser's own event, which comes when the choice is closed; React's comes on the way.
    const chosen = () => {
      if (input) take.current(input.value);
      setPicked(null);
    };
    input?.addEventListener("change", chosen);
    return () => input?.removeEventListener("change", chosen);
  }, []);
  return (
    <span className="inline-flex items-center gap-1">
      <input
        ref={swatch}
        type="color"
        aria-label={`${label}: choose`}
        value={picked ?? value}
        onChange={({ target }) => setPicked(target.value)}
        className="size-5 flex-none cursor-pointer rounded-full border border-line-strong bg-transparent p-0 [&::-webkit-color-swatch-wrapper]:p-0 [&::-webkit-color-swatch]:rounded-full [&::-webkit-color-swatch]:border-0"
      />
      <HexInput {...{ label, quiet, onValue, onEmpty }} value={picked ?? value} />
    </span>
  );
}
