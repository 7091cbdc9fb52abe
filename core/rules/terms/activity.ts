/** What a contact did, how often, and when. */
import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { dayAndYear, shiftedDay } from "../../schedule/day.ts";
import { constantSql, fragment, joinSql, type Sql } from "../fragment.ts";
import { gone, type Term } from "../term.ts";
import type { Activity, Now, World } from "../world.ts";

interface Deed {
  readonly label: string;
  /** Kinds of events. Who clicked has opened, whatever its mail program said. */
  readonly kinds: readonly string[];
  /** Emails count once each however often they were opened; purchases and answers count each time. */
  readonly perEmail: boolean;
  readonly past: string;
}

export const DEEDS = {
  sent: { label: "was sent", kinds: ["accepted"], perEmail: true, past: "was sent" },
  opened: { label: "opened", kinds: ["opened", "clicked"], perEmail: true, past: "opened" },
  clicked: { label: "clicked in", kinds: ["clicked"], perEmail: true, past: "clicked in" },
  bought: { label: "bought", kinds: ["bought"], perEmail: false, past: "bought" },
  viewed: { label: "looked at", kinds: ["viewed"], perEmail: false, past: "looked at" },
  answered: { label: "answered", kinds: ["answered"], perEmail: false, past: "answered" },
} as const satisfies Record<string, Deed>;
export type DeedName = keyof typeof DEEDS;
const NAMES = Object.keys(DEEDS) as [DeedName, ...DeedName[]];

const id = z.string().min(1).max(80).nullable();
const day = z.iso.date("Write a date as year-month-day.").nullable();
const schema = z.strictObject({
  type: z.literal("activity"),
  did: z.enum(NAMES),
  /** An email's campaign, and in it a link by its number; null for any. */
  campaign: id,
  link: z.number().int().min(1).max(10_000).nullable(),
  /** A product and its category, or a question and the answer given; null for any. */
  item: id,
  group: id,
  times: z.strictObject({
    op: z.enum(["atLeast", "atMost"]),
    count: z.number("Write how often.").int().min(0).max(10_000),
  }),
  when: z
    .union([
      z.strictObject({
        last: z
          .number("Write a number of days.")
          .int()
          .min(1, "At least one day.")
          .max(LIMITS.ruleDays),
      }),
      z.strictObject({ from: day, to: day }),
    ])
    .nullable(),
});
export type ActivityTest = z.infer<typeof schema>;

/** A test of activity that asks for nothing yet but that it happened. */
export const didOnce = (did: DeedName, last: number | null = null): ActivityTest => ({
  type: "activity",
  did,
  campaign: null,
  link: null,
  item: null,
  group: null,
  times: { op: "atLeast", count: 1 },
  when: last === null ? null : { last },
});

/** From when (included) and until when (not included) something counts; null for no bound. */
function span(when: ActivityTest["when"], now: Now): { from: Date | null; to: Date | null } {
  const startOf = (date: string, plus = 0) => now.startOf(shiftedDay(date, plus));
  // What happens after the moment a rule is read at does not count.
  const end = new Date(now.at.getTime() + 1);
  if (when === null) return { from: null, to: end };
  if ("last" in when) return { from: startOf(now.today, 1 - when.last), to: end };
  const to = when.to === null ? null : startOf(when.to, 1);
  return {
    from: when.from === null ? null : startOf(when.from),
    to: to && to < end ? to : end,
  };
}

function whenWords(when: ActivityTest["when"]): string {
  if (when === null) return "";
  if ("last" in when) return ` within the last ${when.last === 1 ? "day" : `${when.last} days`}`;
  const { from, to } = when;
  if (from && to) return ` from ${dayAndYear(from)} to ${dayAndYear(to)}`;
  if (from) return ` since ${dayAndYear(from)}`;
  return to ? ` until ${dayAndYear(to)}` : "";
}

/** Under which keys of `World.names` stand its campaign, and the product or question it is about. */
const campaignKey = ({ campaign }: ActivityTest) => campaign && `campaign:${campaign}`;
const isOfProducts = (did: DeedName) => did === "bought" || did === "viewed";
const itemKey = ({ did, item }: ActivityTest) =>
  item && `${isOfProducts(did) ? "product" : "question"}:${item}`;

function whatWords(test: ActivityTest, world: World, many: boolean): string {
  const named = (key: string | null, what: string) => {
    if (key === null) return null;
    const name = world.names.get(key);
    return name === undefined ? gone(what) : `“${name}”`;
  };
  if (DEEDS[test.did].perEmail) {
    const email = named(campaignKey(test), "a campaign");
    if (test.link && email) return `link ${test.link} of ${email}`;
    return email ?? (many ? "emails" : "an email");
  }
  if (isOfProducts(test.did)) {
    const product = named(itemKey(test), "a product");
    return product ?? (test.group ? `something from “${test.group}”` : "something");
  }
  const question = named(itemKey(test), "a question") ?? "a question";
  return test.group ? `${question} with “${test.group}”` : question;
}

function fitter(test: ActivityTest, now: Now): (one: Activity) => boolean {
  const kinds: readonly string[] = DEEDS[test.did].kinds;
  const { from, to } = span(test.when, now);
  const [first, last] = [from?.getTime() ?? -Infinity, to?.getTime() ?? Infinity];
  return (one) =>
    kinds.includes(one.did) &&
    one.at >= first &&
    one.at < last &&
    (test.campaign === null || one.campaign === test.campaign) &&
    (test.link === null || one.link === test.link) &&
    (test.item === null || one.item === test.item) &&
    (test.group === null || one.group === test.group);
}

export const activityTerm: Term<ActivityTest> = {
  type: "activity",
  schema,
  names: (test) => [campaignKey(test), itemKey(test)].filter((key) => key !== null),
  problem(test, world) {
    const campaign = campaignKey(test);
    return campaign !== null && !world.names.has(campaign)
      ? "This rule names a campaign that is gone."
      : null;
  },
  words(test, world) {
    const { past, perEmail } = DEEDS[test.did];
    const { op, count } = test.times;
    const when = whenWords(test.when);
    if (op === "atMost" && count === 0) {
      const never = test.did === "sent" ? "was never sent" : `never ${past}`;
      return `${never} ${whatWords(test, world, false)}${when}`;
    }
    if (op === "atLeast" && count <= 1) return `${past} ${whatWords(test, world, false)}${when}`;
    const often = `${op === "atLeast" ? "at least" : "at most"} ${count}`;
    const emails = perEmail && !test.campaign;
    return emails
      ? `${past} ${often} emails${when}`
      : `${past} ${whatWords(test, world, true)} ${often} times${when}`;
  },
  compile(test, world) {
    const fits = fitter(test, world.now);
    const { perEmail } = DEEDS[test.did];
    const { op, count } = test.times;
    return ({ activity }) => {
      let found = 0;
      const emails = new Set<string | null>();
      for (const one of activity) {
        if (!fits(one)) continue;
        if (perEmail) emails.add(one.launch);
        found = perEmail ? emails.size : found + 1;
        if (found >= count && op === "atLeast") return true;
        if (found > count) return false;
      }
      return op === "atLeast" ? found >= count : found <= count;
    };
  },
  sql(test, world) {
    const { kinds, perEmail } = DEEDS[test.did];
    const { from, to } = span(test.when, world.now);
    const { op, count } = test.times;
    const parts: Sql[] = [
      kinds.length === 1
        ? fragment`e.kind = ${kinds[0]}::text`
        : fragment`e.kind = any (${[...kinds]}::text[])`,
      constantSql("e.contact_id is not null"),
    ];
    if (world.span) {
      parts.push(fragment`e.contact_id > ${world.span.from} and e.contact_id <= ${world.span.to}`);
    }
    if (from) parts.push(fragment`e.at >= ${from}::timestamptz`);
    if (to) parts.push(fragment`e.at < ${to}::timestamptz`);
    if (test.campaign !== null) parts.push(fragment`e.campaign_id = ${test.campaign}::text`);
    if (test.link !== null) parts.push(fragment`e.link = ${test.link}::int`);
    if (test.item !== null) parts.push(fragment`e.item = ${test.item}::text`);
    if (test.group !== null) parts.push(fragment`e.class = ${test.group}::text`);
    // What machines open and follow nobody has read.
    if (test.did === "opened" || test.did === "clicked") parts.push(constantSql("not e.machine"));
    // Who did it at least so often; at most so often is everybody but those who did it once more.
    const least = op === "atLeast" ? count : count + 1;
    if (least <= 0) return constantSql("true");
    const counted = constantSql(perEmail ? "count(distinct e.launch_id)" : "count(*)");
    const often =
      least === 1
        ? constantSql("")
        : fragment` group by e.contact_id having ${counted} >= ${least}::int`;
    const those = fragment`c.id in (select e.contact_id from events e where ${joinSql(parts, " and ")}${often})`;
    return op === "atLeast" ? those : fragment`not ${those}`;
  },
};
