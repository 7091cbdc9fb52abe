/**
 * Personal content on a large audience:
 * - `reach_20_rules_one_pass`: 20 conditions counted with their signatures in one pass, over 20 separate counts (at most 0.7);
 * - `versions_vs_brute`: the versions of a 12-condition email with their head-counts in one pass, over loading the
 *   contacts and evaluating each in turn (at most 0.3);
 * - `merge_conditions_vs_plain`: 10,000 readers with 20 conditions, 5 derived tags and 3 formats, over the same
 *   email without them (at most 1.6);
 * - `claim_codes_vs_update`: 10,000 codes torn off by 50 parallel claimers, over bare updates of the same batches
 *   (at most 3).
 */
import type { DerivedTag } from "#core/derived/index.ts";
import type { DocNode, EmailDocument } from "#core/document/index.ts";
import { keysOf, type Values } from "#core/fields/index.ts";
import { mergeBytes, prepare, type Reader, TODAY, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { compileRule, constantSql, type Rule, ruleSql } from "#core/rules/index.ts";
import { doc, line, paragraph, ruleKey, type Tag, tag } from "#core/text/index.ts";
import { inEachLanguage, versionsOf } from "#core/versions/index.ts";
import type { Database } from "#server/db/database.ts";
import { addCodes, addRoll, tearCodes } from "#server/store/codes.ts";
import { valuesSql } from "#server/store/columns.ts";
import { conditionGroups } from "#server/store/conditions.ts";
import { newsletter, readers, SURROUNDINGS } from "./newsletter.ts";
import { fields, fill, NOW, test, world } from "./people-data.ts";
import { least, withDatabase } from "./people-database.ts";
import type { Figure } from "./run.ts";

const PEOPLE = 100_000;
const CODES = 10_000;
const CLAIMERS = 50;
const BATCH = 50;

/** Rules as they stand on the blocks of an email: a choice, a number, a date, a text, some together. */
const ruleAt = (i: number): Rule => {
  const kind = test(`kind_${i % 10}`, "is", ["Friend", "Patron", "Visitor", "Volunteer"][i % 4]);
  switch (i % 5) {
    case 0:
      return kind;
    case 1:
      return { type: "all", rules: [kind, test(`count_${i % 8}`, "above", 100 + i * 30)] };
    case 2:
      return test(`day_${i % 8}`, "after", `19${70 + i}-01-01`);
    case 3:
      return { type: "any", rules: [kind, test(`flag_${i % 4}`, "yes", null)] };
    default:
      return { type: "none", rules: [test(`text_${i % 10}`, "contains", "mere")] };
  }
};
const rules = (n: number) => Array.from({ length: n }, (_, i) => ruleAt(i));
const EVERYBODY = constantSql("true");

/** The newsletter with the first blocks of its bands for some readers only. */
function conditional(base: EmailDocument, count: number): EmailDocument {
  let placed = 0;
  const visit = (node: DocNode): DocNode => {
    const mine = ["heading", "text", "button"].includes(node.type) && placed < count;
    const seenBy = mine ? (ruleAt(placed++) as never) : null;
    const props = mine ? { ...node.props, seenBy } : node.props;
    return { ...node, props, children: node.children.map(visit) };
  };
  return { ...base, root: visit(base.root) };
}

async function reach({ sql }: Database, figure: Figure): Promise<void> {
  const all = rules(20);
  const keys = all.map(ruleKey);
  const one = () => conditionGroups(sql, keys, world, EVERYBODY);
  const apart = async () => {
    const counts: number[] = [];
    for (const rule of all) {
      const [row] = await sql<{ n: number }>`
        select count(*)::int as n from contacts c where ${ruleSql(rule, world)}`;
      counts.push(row!.n);
    }
    return counts;
  };
  const groups = await one();
  const counted = all.map((_, i) =>
    groups.reduce((sum, { bits, people }) => sum + (bits[i] === "1" ? people : 0), 0),
  );
  if (JSON.stringify(counted) !== JSON.stringify(await apart())) throw new Error("Counts differ");
  figure("reach_20_rules_one_pass", (await least(5, one)) / (await least(5, apart)));
}

async function versions({ sql }: Database, figure: Figure): Promise<void> {
  const doc = conditional(newsletter(45, 12), 12);
  const email = compile(doc, SURROUNDINGS);
  const languages = inEachLanguage(doc, SURROUNDINGS);
  const passes = async () =>
    versionsOf(languages, await conditionGroups(sql, email.conditions, world, EVERYBODY));
  const brute = async () => {
    const holds = email.conditions.map((key) => compileRule(JSON.parse(key) as Rule, world));
    const found = new Map<string, number>();
    const rows = await sql<{ values: Values }>`
      select ${valuesSql(fields, "c")} as values from contacts c`;
    for (const { values } of rows) {
      const who = {
        keys: keysOf(values, fields),
        lists: new Set<string>(),
        activity: [],
        record: () => null,
      };
      const bits = holds.map((one) => (one(who) ? "1" : "0")).join("");
      found.set(bits, (found.get(bits) ?? 0) + 1);
    }
    const groups = [...found].map(([bits, people]) => ({ bits, people, sample: 0 }));
    return versionsOf(languages, groups);
  };
  const counts = (list: readonly { key: string; people: number }[]) =>
    JSON.stringify(list.map(({ key, people }) => [key, people]).sort());
  if (counts(await passes()) !== counts(await brute())) throw new Error("Versions differ");
  figure("versions_vs_brute", (await least(3, passes)) / (await least(3, brute)));
}

const derived = (i: number): DerivedTag => ({
  id: `d${i}`,
  name: `Derived ${i}`,
  kind: "text",
  cases: [
    { rule: ruleAt(i), value: { words: line("Dear ", tag("contact:first_name", "friend")) } },
    { rule: ruleAt(i + 7), value: { words: line(tag("contact:site")) } },
  ],
  otherwise: { words: line("Everybody") },
});
const DERIVED = new Map(Array.from({ length: 5 }, (_, i) => [`d${i}`, derived(i)]));
const FORMATTED: readonly Tag[] = [
  tag("contact:visits", "none", { type: "plural", one: "visit", other: "visits" }),
  tag("contact:joined", "", { type: "days", to: "since" }),
  tag("contact:membership", "", { type: "article" }),
];

/** The first text block of an email with these tags behind its words. */
function withTags(document: EmailDocument, tags: readonly Tag[]): EmailDocument {
  let done = false;
  const visit = (node: DocNode): DocNode => {
    if (node.type !== "text" || done) return { ...node, children: node.children.map(visit) };
    done = true;
    const words = doc(paragraph(...tags.flatMap((one) => [one, ", and on. "])));
    return { ...node, props: { ...node.props, words: words as never } };
  };
  return { ...document, root: visit(document.root) };
}

function merging(figure: Figure): void {
  const options = { links: "direct", marks: false, sign: unsigned } as const;
  const tags = [...[...DERIVED.keys()].map((id) => tag(`derived:${id}`)), ...FORMATTED];
  const around = { ...SURROUNDINGS, derived: DERIVED };
  const email = compile(conditional(withTags(newsletter(45, 12), tags), 20), around);
  const people = readers(10_000).map(
    (reader, i): Reader => ({
      ...reader,
      values: { ...reader.values, [TODAY]: "2026-03-02" },
      bits: email.conditions.map((_, j) => ((i * 7 + j * 13) % 10 < 7 ? "1" : "0")).join(""),
    }),
  );
  const plain = prepare(compile(newsletter(45, 12), SURROUNDINGS), options).html;
  const personal = prepare(email, options).html;
  const run = (body: typeof plain) => () => {
    let bytes = 0;
    for (const reader of people) bytes += mergeBytes(body, reader).length;
    return bytes;
  };
  const time = (work: () => number) => {
    const start = performance.now();
    if (work() === 0) throw new Error("Nothing was made");
    return performance.now() - start;
  };
  const ratios: number[] = [];
  for (let round = 0; round < 9; round++) ratios.push(time(run(personal)) / time(run(plain)));
  figure("merge_conditions_vs_plain", ratios.sort((a, b) => a - b)[4]!);
}

async function codes(database: Database, figure: Figure): Promise<void> {
  const { sql } = database;
  const names = Array.from({ length: CODES }, (_, i) => `CODE-${i}`);
  const fresh = { name: "x", emptyText: "", warnAt: 0, expires: null, again: false };
  const roll = await addRoll(sql, fresh, NOW);
  await addCodes(sql, roll, names);
  await sql`insert into recipients (launch_id, contact_id, email, next_try_at)
    select 'l1', c.id, c.email, now() from contacts c order by c.id limit ${CODES}`;
  const ids = (await sql<{ id: number }>`select id from recipients order by id`).map(
    ({ id }) => id,
  );
  const batches = Array.from({ length: CODES / BATCH }, (_, i) =>
    ids.slice(i * BATCH, (i + 1) * BATCH),
  );
  const first = Number((await sql<{ n: number }>`select min(n)::int as n from codes`)[0]!.n);
  /** So many at once, each taking the next batch. */
  const inParallel = async (work: (batch: readonly number[], i: number) => Promise<unknown>) => {
    let next = 0;
    const claim = async () => {
      for (let i = next++; i < batches.length; i = next++) await work(batches[i]!, i);
    };
    await Promise.all(Array.from({ length: CLAIMERS }, claim));
  };
  const clear = async () => {
    await sql`update codes set launch_id = null, contact_id = null, taken_at = null`;
    await sql`update recipients set values = null`;
    await database.exec("vacuum analyze codes, recipients");
  };
  const timed = async (work: () => Promise<unknown>) => {
    await clear();
    const start = performance.now();
    await work();
    return performance.now() - start;
  };
  const ours = () =>
    inParallel((batch) => database.tx((tx) => tearCodes(tx, "l1", roll, batch, NOW)));
  const bare = () =>
    inParallel((batch, i) =>
      database.tx(async (tx) => {
        const from = first + i * BATCH;
        await tx`update codes set launch_id = 'l1', contact_id = n, taken_at = ${NOW}
          where roll_id = ${roll} and n >= ${from} and n < ${from + BATCH}`;
        await tx`update recipients set values = '{"code":"x"}'::jsonb where id = any (${[...batch]}::bigint[])`;
      }),
    );
  const times = { ours: Number.POSITIVE_INFINITY, bare: Number.POSITIVE_INFINITY };
  for (let round = 0; round < 3; round++) {
    times.ours = Math.min(times.ours, await timed(ours));
    const [row] = await sql<{ n: number }>`
      select count(distinct values::text)::int as n from recipients where values is not null`;
    if (row!.n !== CODES) throw new Error(`${row!.n} different codes were given`);
    times.bare = Math.min(times.bare, await timed(bare));
  }
  figure("claim_codes_vs_update", times.ours / times.bare);
}

export async function personalGroup(figure: Figure): Promise<void> {
  merging(figure);
  await withDatabase(async (database) => {
    await fill(database, PEOPLE, 0);
    await reach(database, figure);
    await versions(database, figure);
    await codes(database, figure);
  });
}
