import { useEffect, useRef, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import type { Sheets } from "./strip.tsx";

/** Pixels beside a sheet: its margins and its scroll bar. */
const AROUND = 34;

/** Scales the sheets so that they fit beside each other. */
export function useScale(emailWidth: number, sheets: Sheets, third = false) {
  const place = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(812);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(entry!.contentRect.width));
    observer.observe(place.current!);
    return () => observer.disconnect();
  }, []);
  const narrow = LIMITS.narrowWidth;
  const own = sheets === "both" ? emailWidth + narrow : sheets === "wide" ? emailWidth : narrow;
  const wanted = own + (third ? narrow : 0);
  const free = room - ((sheets === "both" ? 2 : 1) + (third ? 1 : 0)) * AROUND;
  return { place, scale: Math.min(1, Math.max(0.3, free / wanted)) };
}
