/** What is opened over the sheet makes way for what is dragged out of it, and is gone when that has landed. */
import { useEffect, useRef } from "react";
import { usePlacing } from "../placing/placing.ts";

/** Whether something is dragged now; `close` is called when that ends. */
export function useMakingWay(close: () => void): boolean {
  const dragging = usePlacing(({ load }) => load !== null);
  const wasDragging = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the end of the drag that closes
  useEffect(() => {
    if (wasDragging.current && !dragging) close();
    wasDragging.current = dragging;
  }, [dragging]);
  return dragging;
}
