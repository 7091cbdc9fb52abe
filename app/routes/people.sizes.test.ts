/** Lists and segments by the hundred: searched and paged by the server, compared only where that is asked for. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { addList, addSegment } from "#server/store/audience.ts";
import { addContacts } from "#server/store/contacts.ts";
import { suppress } from "#server/store/suppressions.ts";
import { addMember, type Member } from "#server/store/team.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { routeArgs } from "../testing/route.ts";
import { loader as lists } from "./people.lists.tsx";
import { loader as segments } from "./people.segments.tsx";

let services: TestServices;
let member: Member;
const now = new Date("2026-03-02T10:00:00Z");
const MANY = 90;
const PAGES = Math.ceil(MANY / LIMITS.sourcesPerPage);
beforeAll(async () => {
  services = await startTestServices();
  const { sql } = services.database;
  member = await addMember(sql, { name: "Ada", email: "a@example.org", role: "owner" }, now);
  const ids = await addContacts(
    sql,
    ["a", "b", "c"].map((name) => ({ email: `${name}@example.org`, values: {}, createdAt: now })),
  );
  await suppress(sql, "c@example.org", "bounced", now);
  for (let i = 0; i < MANY; i++) {
    const name = `${i % 9 === 0 ? "Spring" : "Autumn"} ${String(i).padStart(3, "0")}`;
    await addList(sql, name, i === 0 ? ids : [], now);
    await addSegment(
      sql,
      name,
      { type: "field", field: "email", op: "contains", argument: i % 2 ? "a@" : "@" },
      now,
    );
  }
});
afterAll(() => services.database.close());

const ask = <T>(loader: (args: never) => Promise<T>, path: string) =>
  loader(routeArgs(services, member, { path }) as never);

it("lists are found by name and shown a page at a time", async () => {
  const first = await ask(lists, "/people/lists");
  expect([first.lists.length, first.pages, first.total]).toEqual([
    LIMITS.sourcesPerPage,
    PAGES,
    MANY,
  ]);
  expect((await ask(lists, "/people/lists?page=99")).page).toBe(PAGES);
  const spring = await ask(lists, "/people/lists?search=sPRING");
  expect(spring.lists).toHaveLength(10);
  expect(spring.lists[0]).toMatchObject({ name: "Spring 000", people: 3 });
});

it("segments are counted where they are shown, and compared a few at a time", async () => {
  const page = await ask(segments, "/people/segments?search=spring");
  expect([page.own, page.total, page.pages]).toEqual([10, MANY, 1]);
  const counts = await page.counts;
  expect(page.segments[0]!.name).toBe("Spring 000");
  expect(counts[0]).toEqual({ mailable: 2, all: 3 });
  // Those that find who is suppressed count them.
  const bounced = page.segments.findIndex(({ name }) => name === "Bounced");
  expect(counts[bounced]).toEqual({ mailable: 0, all: 1 });
  expect(page.compared).toHaveLength(LIMITS.overlapAtOnce);
  const [one, two] = page.segments;
  const picked = await ask(segments, `/people/segments?compare=${one!.id},${two!.id},nowhere`);
  expect(picked.compared.map(({ name }) => name)).toEqual(["Spring 000", "Spring 009"]);
  expect(await picked.overlap).toEqual([
    [2, 1],
    [1, 1],
  ]);
});
