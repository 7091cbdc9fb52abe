/** What the library of the demo holds beside pictures: derived tags and a code roll. */
import type { DateTime } from "luxon";
import { makeCodes } from "#core/codes/index.ts";
import { chance } from "#core/random.ts";
import type { Rule } from "#core/rules/index.ts";
import { type Link, line, phrase, tag } from "#core/text/index.ts";
import type { Sql } from "#server/db/database.ts";
import { addCodes, addRoll } from "#server/store/codes.ts";
import { addDerived } from "#server/store/derived.ts";
import type { DemoPictures } from "./emails/index.ts";

/** More than there are readers, so that some are left. */
const CODES = 2_600;

const membership = (...argument: string[]): Rule => ({
  type: "field",
  field: "membership",
  op: "among",
  argument,
});

export async function seedLibrary(
  sql: Sql,
  today: DateTime,
  pictures: DemoPictures,
): Promise<{ roll: string }> {
  const now = today.toJSDate();
  await addDerived(
    sql,
    {
      name: "Who signs",
      kind: "sender",
      cases: [
        {
          rule: membership("Friend", "Patron"),
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
  const shop: Link = { kind: "web", address: line("https://larkmoor.example/friends") };
  await addDerived(
    sql,
    {
      name: "Thanks or invitation",
      kind: "rich",
      cases: [
        {
          rule: membership("Patron"),
          value: { words: phrase("Thank you for carrying the garden through another year.") },
        },
        {
          rule: membership("Friend"),
          value: { words: phrase("Thank you for being a Friend.") },
        },
      ],
      otherwise: {
        words: {
          type: "phrase",
          content: [
            { type: "text", text: "Friends walk in free: " },
            {
              type: "text",
              text: "become one",
              marks: [{ type: "link", attrs: { to: shop as never } }, { type: "strong" }],
            },
            { type: "text", text: "." },
          ],
        },
      },
    },
    now,
  );
  await addDerived(
    sql,
    {
      name: "A view for members",
      kind: "picture",
      cases: [
        {
          rule: membership("Friend", "Patron"),
          value: { picture: pictures.glasshouse, alt: line("The glasshouse before opening time") },
        },
      ],
      otherwise: { picture: pictures["brook-walk"], alt: line("The path along the brook") },
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
