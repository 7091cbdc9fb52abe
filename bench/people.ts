/** Rules, segments and the contacts table on a large audience, against the same done by hand. */
import { type Key, keysOf, type Values } from "#core/fields/index.ts";
import { compileRule, didOnce, type Rule, ruleSql, type Subject } from "#core/rules/index.ts";
import { createContactViews } from "#server/audience/contact-views.ts";
import type { Database } from "#server/db/database.ts";
import { valuesSql } from "#server/store/columns.ts";
import { viewSchema } from "#server/store/views.ts";
import { fields, fill, NOW, test, world } from "./people-data.ts";
import { least, withDatabase } from "./people-database.ts";
import type { Figure } from "./run.ts";

const PEOPLE = 100_000;
const EVENTS = 2_000_000;

/** Five rules on fields, as a marketer writes them. */
const FIVE: Rule = {
  type: "all",
  rules: [
    test("kind_0", "among", ["Friend", "Patron"]),
    test("count_0", "above", 200),
    test("day_0", "after", "1990-01-01"),
    { type: "none", rules: [test("text_0", "contains", "mere")] },
    { type: "any", rules: [test("flag_0", "yes", null), test("kind_1", "is", "Volunteer")] },
  ],
};
const WITH_ACTIVITY: Rule = {
  type: "all",
  rules: [{ ...didOnce("opened", 90), times: { op: "atLeast", count: 2 } }, ...FIVE.rules],
};
const friendly = new Set<Key | null | undefined>(["friend", "patron"]);
const byHand = ({ keys: k }: Subject): boolean =>
  friendly.has(k.kind_0) &&
  k.count_0 !== undefined &&
  (k.count_0 as number) > 200 &&
  k.day_0 !== undefined &&
  (k.day_0 as string) > "1990-01-01" &&
  !(k.text_0 !== undefined && (k.text_0 as string).includes("mere")) &&
  (k.flag_0 === true || k.kind_1 === "volunteer");

async function rulesInMemory(database: Database, figure: Figure): Promise<void> {
  const rows = await database.sql<{ values: Values }>`
    select ${valuesSql(fields, "c")} as values from contacts c`;
  const subjects: Subject[] = rows.map(({ values }) => ({
    keys: keysOf(values, fields),
    lists: new Set(),
    activity: [],
    record: () => null,
  }));
  const fits = compileRule(FIVE, world);
  const count = (test: (who: Subject) => boolean) => {
    let n = 0;
    for (const who of subjects) if (test(who)) n++;
    return n;
  };
  if (count(fits) !== count(byHand)) throw new Error("The rule and the hand disagree");
  for (let i = 0; i < 3; i++) [count(fits), count(byHand)];
  const ours = await least(9, () => count(fits));
  figure("rules_vs_handwritten", ours / (await least(9, () => count(byHand))));
}

/** How many contacts hold a segment of five fields and one activity; and the same by hand. */
async function segmentTimes(database: Database): Promise<{ ours: number; hand: number }> {
  const { sql } = database;
  const ours = () =>
    sql<{
      n: number;
    }>`select count(*)::int as n from contacts c where ${ruleSql(WITH_ACTIVITY, world)}`;
  const hand = () => sql<{ n: number }>`
    select count(*)::int as n from contacts c
    where c.id in (select contact_id from events where kind in ('opened', 'clicked')
        and at >= '2025-12-03' and at <= ${NOW} group by contact_id
        having count(distinct launch_id) >= 2)
      and c.x_kind_0 in ('friend', 'patron') and c.f_count_0 > 200 and c.f_day_0 > '1990-01-01'
      and coalesce(position('mere' in c.x_text_0), 0) = 0
      and (c.f_flag_0 or c.x_kind_1 = 'volunteer')`;
  const [a] = await ours();
  const [b] = await hand();
  if (a!.n !== b!.n || a!.n === 0) throw new Error(`The segment catches ${a!.n}, by hand ${b!.n}`);
  return { ours: await least(5, ours), hand: await least(5, hand) };
}

async function tablePages(database: Database, figure: Figure): Promise<void> {
  const views = createContactViews();
  const view = viewSchema.parse({ sort: "text_0" });
  const { token } = await views.open(database.sql, view, world);
  const page = (from: number) =>
    views.rows(database.sql, token, view, fields, async () => world, from, 100);
  await page(0);
  const first = await least(9, () => page(0));
  figure("table_page_deep_vs_first", (await least(9, () => page(90_000))) / first);
}

export async function peopleGroup(figure: Figure): Promise<void> {
  const small = await withDatabase(async (database) => {
    await fill(database, PEOPLE / 10, EVENTS / 10);
    return segmentTimes(database);
  });
  await withDatabase(async (database) => {
    await fill(database, PEOPLE, EVENTS);
    const { ours, hand } = await segmentTimes(database);
    figure("segment_vs_handwritten_sql", ours / hand);
    figure("segment_growth_10x", ours / small.ours);
    await tablePages(database, figure);
    await rulesInMemory(database, figure);
  });
}
