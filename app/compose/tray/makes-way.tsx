/** What is opened over the sheet makes way for what is dragged out of it, and is gone when that has landed. */
import { type ComponentProps, useEffect, useRef } from "react";
import { usePlacing } from "../placing/placing.ts";

/** The inside of a popover; `close` is called when a drag ends. It alone is drawn for a drag, and only while it is open. */
export function MakesWay({ close, ...more }: { close(): void } & ComponentProps<"div">) {
  const dragging = usePlacing(({ load }) => load !== null);
  const wasDragging = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the end of the drag that closes
  useEffect(() => {
    if (wasDragging.current && !dragging) close();
    wasDragging.current = dragging;
  }, [dragging]);
  return <div data-away={dragging || undefined} {...more} />;
}
