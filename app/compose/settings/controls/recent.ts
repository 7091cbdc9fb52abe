/** Colours used lately in this browser, the last first. */
import { HEX } from "#core/theme/theme.ts";

const KEY = "septima.colours";
const KEPT = 6;

export function recentColours(): string[] {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(KEY) ?? "[]");
    return Array.isArray(value)
      ? value.filter((one) => typeof one === "string" && HEX.test(one))
      : [];
  } catch {
    return [];
  }
}

export function rememberColour(hex: string): void {
  try {
    const next = [hex, ...recentColours().filter((one) => one !== hex)].slice(0, KEPT);
    localStorage.setItem(KEY, JSON.stringify(next));
  } catch {
    // Storage may be off or full: then nothing is remembered.
  }
}
