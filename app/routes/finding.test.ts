/** What the screens ask while somebody chooses: names, pictures and looks, with good and bad questions. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { addList } from "#server/store/audience.ts";
import { putBack } from "#server/store/bin.ts";
import type { Member } from "#server/store/team.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { answered, routeArgs } from "../testing/route.ts";
import { loader as find } from "./api.find.ts";
import { loader as look } from "./api.look.ts";
import { loader as pictures } from "./api.pictures.ts";
import { action as remove } from "./library.picture.tsx";
import { loader as library } from "./library.pictures.tsx";

let services: TestServices;
let member: Member;
let document: string;
const now = new Date("2026-03-02T10:00:00Z");
const MANY = 60;
beforeAll(async () => {
  services = await startTestServices();
  const made = await smallCampaign(services, ["one@example.org"]);
  member = made.member as Member;
  document = made.campaign.documentId;
  const { sql } = services.database;
  for (let i = 0; i < MANY; i++) await addList(sql, `List ${i}`, [], now);
  await sql`insert into pictures (id, file, name, width, height, alpha, bytes, created_at)
    select repeat(to_char(n, 'FM00'), 32), repeat(to_char(n, 'FM00'), 32) || '.png', 'Frost ' || n, 10, 10, false, 9,
      timestamptz '2026-01-01' + make_interval(secs => n) from generate_series(1, 60) n`;
});
afterAll(() => services.close());

const ask = async <T>(
  loader: (args: never) => Promise<Response>,
  path: string,
  params: Record<string, string> = {},
): Promise<T & { status: number }> => {
  const answer = await loader(routeArgs(services, member, { path }, params) as never);
  return { ...((await answer.json()) as T), status: answer.status };
};
type Named = { found: { id: string; name: string }[] };

it("offers as many as can be looked through, and every one by what is typed", async () => {
  const all = await ask<Named>(find, "/find/lists", { what: "lists" });
  expect(all.found).toHaveLength(LIMITS.found);
  const one = await ask<Named>(find, "/find/lists?words=list 59", { what: "lists" });
  expect(one.found.map(({ name }) => name)).toEqual(["List 59"]);
  const { id } = one.found[0]!;
  expect((await ask<Named>(find, `/find/lists?id=${id}`, { what: "lists" })).found).toEqual(
    one.found,
  );
  expect((await ask<Named>(find, "/find/lists?id=gone", { what: "lists" })).found).toEqual([]);
});

it("refuses what cannot be found by, and finds nothing in tables that are not there", async () => {
  const what = (name: string) => ask<{ message?: string }>(find, `/find/${name}`, { what: name });
  expect((await what("members")).status).toBe(400);
  expect((await what("constructor")).status).toBe(400);
  for (const of of ["contacts", "members; drop table lists", "", "../x"]) {
    const path = `/find/records?${new URLSearchParams({ of })}`;
    expect((await ask<Named>(find, path, { what: "records" })).found).toEqual([]);
  }
  const long = `/find/lists?words=${"x".repeat(LIMITS.searchLength + 1)}`;
  expect((await ask(find, long, { what: "lists" })).status).toBe(400);
});

type Page = { pictures: { id: string; name: string }[]; total: number };
it("gives pictures a page at a time, the latest first, or those that are named", async () => {
  const first = await ask<Page>(pictures, "/library/pictures");
  expect([first.pictures.length, first.total]).toEqual([LIMITS.picturesPerPage, 60]);
  expect(first.pictures[0]!.name).toBe("Frost 60");
  const next = await ask<Page>(pictures, `/library/pictures?from=${LIMITS.picturesPerPage}`);
  expect(next.pictures[0]!.name).toBe(`Frost ${60 - LIMITS.picturesPerPage}`);
  const found = await ask<Page>(pictures, "/library/pictures?words=frost 7");
  expect(found.pictures.map(({ name }) => name)).toEqual(["Frost 7"]);
  const ids = `${first.pictures[1]!.id},gone`;
  const named = await ask<Page>(pictures, `/library/pictures?ids=${ids}`);
  expect(named.pictures.map(({ name }) => name)).toEqual(["Frost 59"]);
  for (const bad of ["from=-1", "from=x", `words=${"x".repeat(300)}`]) {
    expect((await ask(pictures, `/library/pictures?${bad}`)).status).toBe(400);
  }
  const page = await library(
    routeArgs(services, member, { path: "/library?page=99&search=frost" }) as never,
  );
  expect([page.page, page.pages, page.total]).toEqual([3, 3, 60]);
  expect(page.pictures.at(-1)!.name).toBe("Frost 1");
});

it("shows what an email looks like, to whom nothing in it can happen", async () => {
  const small = (seq: string, id = document) =>
    look(routeArgs(services, member, {}, { document: id, seq }) as never);
  const answer = await small("0");
  expect(answer.headers.get("content-security-policy")).toContain("default-src 'none'");
  expect(await answer.text()).toContain("<html");
  expect((await small("0", "nowhere")).status).toBe(404);
  expect((await small("x")).status).toBe(404);
});

it("takes a picture out of the library unless an email shows it, and it can be put back", async () => {
  const { sql } = services.database;
  const [one, two] = await sql<{
    id: string;
    name: string;
  }>`select id, name from pictures order by created_at limit 2`;
  await sql`update documents set body = body || ' ' where id = ${document}`;
  const before = (
    await sql<{ body: string }>`select body from documents where id = ${document}`
  )[0]!;
  await sql`update documents set body = ${`${before.body}<!-- ${two!.id} -->`} where id = ${document}`;
  const take = (picture: string) =>
    remove(routeArgs(services, member, { form: { do: "delete" } }, { picture }) as never);
  const used = answered<{ problem: string }>(await take(two!.id));
  expect([used.status, used.problem]).toEqual([409, expect.stringContaining(two!.name)]);
  await sql`update documents set body = ${before.body} where id = ${document}`;
  expect(answered(await take("nowhere")).status).toBe(404);
  const gone = (await take(one!.id)) as Response;
  const id = new URL(gone.headers.get("location")!, "http://x").searchParams.get("removed")!;
  expect(await sql`select 1 from pictures where id = ${one!.id}`).toEqual([]);
  await services.database.tx((tx) => putBack(tx, id));
  expect(await sql`select 1 from pictures where id = ${one!.id}`).toHaveLength(1);
});
