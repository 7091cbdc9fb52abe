import { fold } from "../fold.ts";
import type { FieldKind } from "../kind.ts";

/** Zones by their folded name; the IANA time zone database, as the platform ships it. */
const ZONES = new Map(
  ["UTC", ...Intl.supportedValuesOf("timeZone")].map((zone) => [fold(zone), zone]),
);
export const ZONE_NAMES: readonly string[] = [...new Set(ZONES.values())];

const zoneOf = (text: string) => ZONES.get(fold(text.trim().replaceAll(" ", "_"))) ?? null;

/** A time zone by its IANA name, such as Europe/Paris. */
export const zone: FieldKind<string> = {
  type: "zone",
  label: "Time zone",
  column: "text",
  key: { column: "text", of: fold },
  check: (value) => (typeof value === "string" ? zoneOf(value) : null),
  parse(text) {
    if (text.trim() === "") return { value: null };
    const value = zoneOf(text);
    return value ? { value } : { problem: `“${text.slice(0, 40)}” is not a time zone` };
  },
  write: (value) => value,
  sample: () => "Europe/London",
};
