/** The reader of the sheets: a contact with the conditions that hold for them. */
import { useMemo, useRef } from "react";
import type { Reader } from "#core/merge/index.ts";
import type { WhoSees } from "../../rules/who-sees.ts";
import type { ReaderChoice } from "../wire.ts";

/**
 * A contact who is chosen is read as once it is known what they see: until then the sheets stay with the one
 * before, so that nothing is drawn twice. A condition that was just made shows its part until it is known.
 */
export function useReader(
  chosen: ReaderChoice | null,
  fixed: Reader["values"],
  conditions: readonly string[],
  whoSees: WhoSees | null,
): Reader {
  const known = conditions.length === 0 || whoSees?.contact === (chosen?.id ?? null);
  const last = useRef(chosen);
  if (known) last.current = chosen;
  const reading = last.current;
  const mine = whoSees !== null && whoSees.contact === (reading?.id ?? null);
  const bits = conditions
    .map((one) => {
      const at = mine ? whoSees.conditions.indexOf(one) : -1;
      return at < 0 ? (mine ? "1" : "0") : (whoSees!.bits[at] ?? "0");
    })
    .join("");
  // The same object while only the conditions change, so that only what they touch is drawn again.
  const values = useMemo(() => ({ ...fixed, ...reading?.values }), [fixed, reading]);
  return useMemo(() => ({ values, bits, token: "" }), [values, bits]);
}
