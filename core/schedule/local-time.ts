/** A day and a time in a zone as a moment: where clocks change, some times come twice and some never. */
import { DateTime } from "luxon";

export type LocalTime =
  | { readonly is: "once"; readonly at: Date }
  /** Clocks go back over it: it is this moment and that one. */
  | { readonly is: "twice"; readonly first: Date; readonly second: Date }
  /** Clocks go forward over it; the nearest times there are, as HH:mm. */
  | { readonly is: "never"; readonly before: string; readonly after: string };

/** Reads an ISO date and HH:mm in an IANA zone. Null where one of them is none. */
export function readLocalTime(date: string, time: string, zone: string): LocalTime | null {
  const read = DateTime.fromISO(`${date}T${time}`, { zone });
  if (!read.isValid) return null;
  if (read.toFormat("HH:mm") !== time) {
    // The offset before the change and the one after it lead to the two sides of the gap.
    const earlier = read.minus({ hours: 12 }).offset;
    const later = read.plus({ hours: 12 }).offset;
    const gap = Math.abs(later - earlier);
    let edge = read;
    while (edge.minus({ minutes: 1 }).offset === later) edge = edge.minus({ minutes: 1 });
    return {
      is: "never",
      before: edge.minus({ minutes: 1 }).toFormat("HH:mm"),
      after: gap > 0 ? edge.toFormat("HH:mm") : time,
    };
  }
  const [first, second] = read.getPossibleOffsets().map((one) => one.toJSDate());
  return second ? { is: "twice", first: first!, second } : { is: "once", at: read.toJSDate() };
}
