/** Whatever is dragged is one and the same to the library: were every row one of its own, each drag would draw all of them anew. */
import { useDraggable } from "@dnd-kit/core";
import { type PointerEvent, type ReactNode, useCallback, useState } from "react";
import { handedDown } from "../shared.ts";
import type { Load } from "./load.ts";

/** Hears of a press on something that can be dragged, and what it would take along. */
type Press = (event: PointerEvent<HTMLElement>, load: Load) => void;

const { Provider, use } = handedDown<Press>("carrying");

export function Carrying({ children }: { children: ReactNode }) {
  const [data] = useState<{ load: Load | null }>(() => ({ load: null }));
  const { setNodeRef, listeners } = useDraggable({ id: "carried", data });
  const press = useCallback<Press>(
    (event, load) => {
      setNodeRef(event.currentTarget);
      data.load = load;
      listeners?.onPointerDown?.(event);
    },
    [data, listeners, setNodeRef],
  );
  return <Provider value={press}>{children}</Provider>;
}

export const useCarrying = use;
