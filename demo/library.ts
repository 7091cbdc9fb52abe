/** What the library of the demo holds beside pictures: derived tags and a code roll. */
import type { DateTime } from "luxon";
import { makeCodes } from "#core/codes/index.ts";
import { line, tag } from "#core/text/index.ts";
import type { Sql } from "#server/db/database.ts";
import { addCodes, addRoll } from "#server/store/codes.ts";
import { addDerived } from "#server/store/derived.ts";
import { chance } from "./random.ts";

/** More than there are readers, so that some are left. */
const CODES = 2_600;

export async function seedLibrary(sql: Sql, today: DateTime): Promise<{ roll: string }> {
  const now = today.toJSDate();
  await addDerived(
    sql,
    {
      name: "Who signs",
      kind: "sender",
      cases: [
        {
          rule: {
            type: "field",
            field: "membership",
            op: "among",
            argument: ["Friend", "Patron"],
          },
          value: {
            name: line(tag("contact:site.manager"), ", Larkmoor"),
            address: line(tag("contact:site.manager.email")),
          },
        },
      ],
      otherwise: { name: line("Larkmoor Botanic Garden"), address: line("news@larkmoor.example") },
    },
    now,
  );
  await addDerived(
    sql,
    {
      name: "Years with us",
      kind: "number",
      cases: [],
      otherwise: { op: "yearsSince", field: "contact:joined" },
    },
    now,
  );
  const roll = await addRoll(
    sql,
    {
      name: "Seed shop, ten per cent",
      emptyText: "Say “Larkmoor” at the till",
      warnAt: 200,
      expires: today.plus({ months: 2 }).toISODate(),
      again: false,
    },
    now,
  );
  await addCodes(sql, roll, makeCodes("LARK-####-@@@", CODES, chance(61).below));
  return { roll };
}
