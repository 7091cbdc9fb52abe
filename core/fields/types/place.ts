import { isJsonObject } from "../../json.ts";
import { LIMITS } from "../../limits.ts";
import type { FieldKind } from "../kind.ts";
import { cleanText } from "./text.ts";

/** Degrees (WGS 84), north and east above zero. */
export interface Place {
  readonly lat: number;
  readonly lon: number;
  readonly name: string;
  readonly [key: string]: string | number;
}

const NUMBER = "[+-]?\\d{1,3}(?:\\.\\d+)?";
const BARE = new RegExp(`^(${NUMBER})\\s*[,;]\\s*(${NUMBER})$`);
const NAMED = new RegExp(`^(.*?)\\s*\\(\\s*(${NUMBER})\\s*[,;]\\s*(${NUMBER})\\s*\\)$`, "s");

function placeOf(lat: number, lon: number, name: string): Place | null {
  const fits = Math.abs(lat) <= 90 && Math.abs(lon) <= 180;
  return fits ? { lat, lon, name: cleanText(name).slice(0, LIMITS.nameLength) } : null;
}

const EARTH_KM = 6_371;
const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Kilometres between two places along the surface, by the haversine formula on a sphere. */
export function distanceKm(
  [lat1, lon1]: readonly [number, number],
  [lat2, lon2]: readonly [number, number],
): number {
  const a =
    Math.sin(radians(lat2 - lat1) / 2) ** 2 +
    Math.cos(radians(lat1)) * Math.cos(radians(lat2)) * Math.sin(radians(lon2 - lon1) / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(a)));
}

export const place: FieldKind<Place> = {
  type: "place",
  label: "Place",
  column: "jsonb",
  key: { column: "float8[]", of: ({ lat, lon }) => [lat, lon] },
  check(value) {
    if (!isJsonObject(value)) return null;
    const { lat, lon, name } = value;
    if (typeof lat !== "number" || typeof lon !== "number") return null;
    return placeOf(lat, lon, typeof name === "string" ? name : "");
  },
  parse(text) {
    const written = text.trim();
    if (written === "") return { value: null };
    const bare = BARE.exec(written);
    const named = bare ? null : NAMED.exec(written);
    const value = bare
      ? placeOf(Number(bare[1]), Number(bare[2]), "")
      : named && placeOf(Number(named[2]), Number(named[3]), named[1]!);
    return value
      ? { value }
      : { problem: `“${text.slice(0, 40)}” is not a place: write latitude, longitude` };
  },
  write: ({ lat, lon, name }) => (name ? `${name} (${lat}, ${lon})` : `${lat}, ${lon}`),
  sample: ({ label }) => label,
};
