import clsx from "clsx";

/** The small mark of a room: filled when ready, half when something is to be looked at. */
export function Dot({ mark }: { mark: "ready" | "half" | "open" }) {
  return (
    <span
      aria-hidden
      className={clsx(
        "inline-block size-2 rounded-full border-[1.5px]",
        mark === "ready" && "border-leaf bg-leaf",
        mark === "half" &&
          "border-saffron bg-[linear-gradient(90deg,var(--saffron)_50%,transparent_50%)]",
        mark === "open" && "border-ink-3",
      )}
    />
  );
}
export const DOT_WORDS = {
  ready: "ready",
  half: "something to look at",
  open: "not ready",
} as const;
