/** Which blocks are used most in this browser: the tray shows them first. */
import { useEffect, useState } from "react";

const KEY = "septima.blocks";
type Usage = Readonly<Record<string, number>>;

function read(): Usage {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(KEY) ?? "{}");
    const entries = Object.entries(value as object).filter(([, n]) => typeof n === "number");
    return Object.fromEntries(entries) as Usage;
  } catch {
    return {};
  }
}

/** Counts a block that was put into an email. */
export function countUse(type: string): void {
  try {
    const usage = read();
    localStorage.setItem(KEY, JSON.stringify({ ...usage, [type]: (usage[type] ?? 0) + 1 }));
  } catch {
    // Storage may be off or full: then the order of the list holds.
  }
}

/** The counts as they were when the page was opened, so that nothing moves under the hand. */
export function useUsage(): Usage {
  const [usage, setUsage] = useState<Usage>({});
  useEffect(() => setUsage(read()), []);
  return usage;
}
