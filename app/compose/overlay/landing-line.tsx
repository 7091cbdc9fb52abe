/** The line that shows where something would land, and says it in words. */
import type { Landing } from "../placing/landing.ts";

export function LandingLine({ landing, scale }: { landing: Landing; scale: number }) {
  const { x, y, width, height } = landing.line;
  const upright = height !== undefined;
  return (
    <div
      data-landing=""
      className={`pointer-events-none absolute z-20 rounded-full bg-plum ${upright ? "w-1 -translate-x-1/2" : "h-1 -translate-y-1/2"}`}
      style={{
        left: x * scale,
        top: y * scale,
        ...(upright ? { height: height * scale } : { width: width * scale || "100%" }),
      }}
    >
      <span className="absolute top-1/2 left-1/2 max-w-md -translate-x-1/2 -translate-y-1/2 truncate rounded-full bg-plum px-2.5 py-0.5 text-small font-semibold whitespace-nowrap text-on-plum">
        {landing.words}
      </span>
    </div>
  );
}
