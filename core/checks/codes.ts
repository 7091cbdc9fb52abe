import type { Finding } from "../kinds/kind.ts";
import { codesOf, seesCode } from "../merge/index.ts";
import { type Check, codesIn, readersIn } from "./check.ts";

/** Whether the rolls that an email tears codes off have enough of them, and whether those are still good. */
export const codes: Check = {
  id: "codes",
  run({ compiled, surroundings, readers, today }) {
    if (!surroundings.rolls?.size) return [];
    const findings: Finding[] = [];
    for (const [id, whens] of codesOf(compiled)) {
      const roll = surroundings.rolls?.get(id);
      if (!roll) continue;
      const people = (readers?.groups ?? [])
        .filter(({ bits }) => seesCode(whens, readers!.conditions, bits))
        .reduce((sum, group) => sum + group.people, 0);
      const add = (severity: Finding["severity"], message: string, detail: string) =>
        findings.push({ check: "codes", severity, message, detail, at: "email" });
      if (roll.expires !== null && today !== null && roll.expires < today) {
        add(
          "stop",
          `The codes of “${roll.name}” have expired`,
          `They were good until ${roll.expires}.`,
        );
      }
      if (roll.left < people) {
        add(
          roll.emptyText.trim() === "" ? "stop" : "look",
          `“${roll.name}” has ${codesIn(roll.left)} for ${readersIn(people)}`,
          roll.emptyText.trim() === ""
            ? "Add codes, or write what those see who get none."
            : `${readersIn(people - roll.left)} will see “${roll.emptyText}”.`,
        );
      } else if (roll.left - people < roll.warnAt) {
        add("look", `“${roll.name}” runs low`, `${codesIn(roll.left - people)} will be left.`);
      }
    }
    return findings;
  },
};
