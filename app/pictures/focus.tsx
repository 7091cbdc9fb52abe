/** The point of an image that stays in sight where it is cut. */
import { Crosshair } from "lucide-react";
import type { Focus } from "#core/pictures/crop.ts";
import { NumberInput } from "../ui/number-input.tsx";

export function FocusPoint({
  src,
  focus,
  onFocus,
}: {
  src: string;
  focus: Focus;
  onFocus: (focus: Focus) => void;
}) {
  const number = (axis: "x" | "y", label: string) => (
    <span className="flex items-center gap-1.5">
      {label}
      <NumberInput
        label={`In sight: ${label.toLowerCase()}`}
        value={focus[axis]}
        min={0}
        max={100}
        onValue={(value) =>
          value !== null &&
          onFocus({ ...focus, [axis]: Math.max(0, Math.min(100, Math.round(value))) })
        }
        className="w-14"
      />
    </span>
  );
  return (
    <fieldset>
      <legend className="mb-1 text-small text-ink-2">
        Focal point: click what has to stay in sight where the image is cropped
      </legend>
      <div className="flex justify-center rounded-md border bg-bench p-2">
        {/* The numbers below do the same by keys. */}
        <button
          type="button"
          tabIndex={-1}
          aria-hidden
          className="relative cursor-crosshair"
          onClick={({ nativeEvent, currentTarget }) => {
            const { left, top, width, height } = currentTarget.getBoundingClientRect();
            const per = (at: number, of: number) => Math.round((at / of) * 100);
            onFocus({
              x: per(nativeEvent.clientX - left, width),
              y: per(nativeEvent.clientY - top, height),
            });
          }}
        >
          <img src={src} alt="" className="max-h-56" />
          <Crosshair
            className="pointer-events-none absolute size-6 -translate-x-1/2 -translate-y-1/2 rounded-full bg-plum p-0.5 text-white"
            style={{ left: `${focus.x}%`, top: `${focus.y}%` }}
          />
        </button>
      </div>
      <div className="mt-1.5 flex gap-3 text-small text-ink-2">
        {number("x", "From the left, %")}
        {number("y", "From the top, %")}
      </div>
    </fieldset>
  );
}
