/** Feeds in the library and on the shelf: what is asked badly, and what has gone meanwhile. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { readSource } from "#server/sources/reading.ts";
import { getSettings } from "#server/store/settings.ts";
import { getSource, getSources } from "#server/store/sources.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import type { ItemPage } from "../compose/wire.ts";
import { type Asked, answered, routeArgs } from "../testing/route.ts";
import { loader as items } from "./api.items.ts";
import { action as feedAction, loader as feedPage } from "./library.source.tsx";
import { action as feedsAction, loader as feedsPage } from "./library.sources.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
const args = (asked: Asked, params: Record<string, string> = {}) =>
  routeArgs(services, made.member, asked, params) as never;
const sql = () => services.database.sql;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org"]);
});
afterAll(() => services.close());

interface Answer {
  readonly error?: Record<string, string[]>;
}
const asked = async (form: Record<string, string>) =>
  answered<Answer>((await feedsAction(args({ form }, { kind: "feeds" }))) as never);
const shelf = async (query: string) => {
  const answer = (await items(args({ path: `/library/items?${query}` }))) as Response;
  return { status: answer.status, body: (await answer.json()) as ItemPage };
};

it("says at the field what is wrong with an address, and adds nothing", async () => {
  expect((await asked({ do: "add", address: "  " })).error?.address?.[0]).toContain(
    "Write the address",
  );
  expect((await asked({ do: "add", address: "x".repeat(3_000) })).error?.address?.[0]).toContain(
    "too long",
  );
  expect((await asked({ do: "add", address: "http://[::1]/" })).error?.address?.[0]).toContain(
    "private",
  );
  expect((await asked({ do: "what" })).status).toBe(400);
  expect(await getSources(sql())).toEqual([]);
  // The shelf is there before there is a feed.
  expect((await shelf("")).body).toEqual({
    ...{ sources: [], source: null, kind: null },
    ...{ found: 0, items: [] },
  });
});

it("adds, reads, renames and shows a feed, and moves the time of its site on", async () => {
  const to = (await feedsAction(
    args({ form: { do: "add", address: "bench.larkmoor.example" } }, { kind: "feeds" }),
  )) as Response;
  const id = to.headers.get("location")!.split("/").at(-1)!;
  const before = (await feedPage(args({}, { kind: "feeds", source: id }))) as {
    reading: boolean;
    items: unknown[];
  };
  expect(before).toMatchObject({ reading: true, items: [] });
  await readSource(services, id);
  const page = (await feedPage(
    args({ path: "/library/feeds/x?search=lettuce" }, { kind: "feeds", source: id }),
  )) as {
    items: { title: string }[];
    all: number;
  };
  expect(page.items.length).toBeGreaterThan(0);
  expect(page.items.length).toBeLessThan(page.all);
  await feedAction(
    args({ form: { do: "rename", name: "The bench" } }, { kind: "feeds", source: id }),
  );
  expect((await getSource(sql(), id))!.name).toBe("The bench");
  const nameless = answered<Answer>(
    (await feedAction(
      args({ form: { do: "rename", name: " " } }, { kind: "feeds", source: id }),
    )) as never,
  );
  expect(nameless.error?.name?.[0]).toContain("name");
  await feedsAction(args({ form: { do: "moveOn" } }, { kind: "feeds" }));
  expect((await getSettings(sql())).standIns.ahead).toBe(1);
  expect(await feedsPage(args({}, { kind: "feeds" }))).toMatchObject({
    ahead: 1,
    sources: [{ id, name: "The bench" }],
  });
});

it("gives the shelf a page of items, and the first feed where one is asked for that has gone", async () => {
  const { id } = (await getSources(sql()))[0]!;
  const first = (await shelf(`source=${id}`)).body;
  expect(first.items).toHaveLength(24);
  const rest = (await shelf(`source=${id}&from=24`)).body;
  expect(rest.items).toHaveLength(first.found - 24);
  expect((await shelf("source=gone")).body.source).toBe(id);
  expect((await shelf(`source=${id}&search=%26%20%7C`)).status).toBe(200);
  for (const bad of ["source=A'--", "from=-1", "from=x", `search=${"x".repeat(5_000)}`]) {
    expect((await shelf(bad)).status, bad).toBe(400);
  }
});

it("removes a feed, and says that one is gone", async () => {
  const { id } = (await getSources(sql()))[0]!;
  await feedAction(args({ form: { do: "remove" } }, { kind: "feeds", source: id }));
  expect(await getSources(sql())).toEqual([]);
  await expect(feedPage(args({}, { kind: "feeds", source: id }))).rejects.toMatchObject({
    init: { status: 404 },
  });
  await expect(
    feedAction(args({ form: { do: "read" } }, { kind: "feeds", source: id })),
  ).rejects.toMatchObject({
    init: { status: 404 },
  });
});
