/** The reader of the sheets: a contact with the conditions that hold for them. */
import type { Reader } from "#core/merge/index.ts";
import type { WhoSees } from "../../rules/who-sees.ts";
import type { ReaderChoice } from "../wire.ts";

export type ReaderKeeper = (
  chosen: ReaderChoice | null,
  conditions: readonly string[],
  known: WhoSees | null,
) => Reader;

/**
 * A contact who is chosen is read as once it is known what they see: until then the sheets stay with the one
 * before, so that nothing is drawn twice. A condition that was just made shows its part until it is known. The
 * same reader is the same object, and so are the same values, so that only what changes is drawn again.
 */
export function createReaderKeeper(fixed: Reader["values"]): ReaderKeeper {
  let reading: ReaderChoice | null | undefined;
  let reader: Reader = { values: fixed, bits: "", token: "" };
  return (chosen, conditions, known) => {
    const answered = conditions.length === 0 || known?.contact === (chosen?.id ?? null);
    const next = answered || reading === undefined ? chosen : reading;
    const mine = known !== null && known.contact === (next?.id ?? null);
    const bits = conditions
      .map((one) => {
        const at = mine ? known.conditions.indexOf(one) : -1;
        return at < 0 ? (mine ? "1" : "0") : (known!.bits[at] ?? "0");
      })
      .join("");
    const values = next === reading ? reader.values : { ...fixed, ...next?.values };
    if (values !== reader.values || bits !== reader.bits) reader = { values, bits, token: "" };
    reading = next;
    return reader;
  };
}
