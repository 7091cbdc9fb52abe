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
    // What was read lies after the leap, by as much as it was in it: its edge is a little before.
    const { offset } = read;
    let edge = read;
    while (edge.minus({ minutes: 1 }).offset === offset) edge = edge.minus({ minutes: 1 });
    const before = edge.minus({ minutes: 1 }).toFormat("HH:mm");
    return { is: "never", before, after: edge.toFormat("HH:mm") };
  }
  const [first, second] = read.getPossibleOffsets().map((one) => one.toJSDate());
  return second ? { is: "twice", first: first!, second } : { is: "once", at: read.toJSDate() };
}
