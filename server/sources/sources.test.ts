/** Sources from adding to reading, against a database and sites that do what they are told. */
import { afterEach, beforeEach, expect, it } from "vitest";
import { said } from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import { createFetcher, FetchError, type StandInAnswer } from "../fetching/fetcher.ts";
import { getSchema } from "../store/fields.ts";
import { countEach, countItems, searchItems, takeItems } from "../store/items.ts";
import { getPictures, searchPictures } from "../store/pictures.ts";
import { saveSetting } from "../store/settings.ts";
import { getSource, getSources, removeSource } from "../store/sources.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { addSourceAt } from "./adding.ts";
import { readSource } from "./reading.ts";

let services: TestServices;
/** What stands on the site `garden.example`, by path. */
let site: Record<string, StandInAnswer | FetchError>;
beforeEach(async () => {
  site = {};
  const made = await startTestServices();
  const standIn = (url: URL) => {
    const answer = site[url.pathname] ?? null;
    if (answer instanceof FetchError) throw answer;
    return answer;
  };
  services = {
    ...made,
    fetcher: createFetcher({ standIns: new Map([["garden.example", standIn]]) }),
  };
});
afterEach(() => services.close());

const sql = () => services.database.sql;
const rss = (...items: string[]): StandInAnswer => ({
  contentType: "application/rss+xml",
  body: `<rss version="2.0"><channel><title>Notes</title><link>https://garden.example/</link>${items.join("")}</channel></rss>`,
});
const item = (title: string, more = "") =>
  `<item><title>${title}</title><link>https://garden.example/${title}</link>${more}</item>`;
const all = (id: string) => searchItems(sql(), id, { search: "", from: 0, limit: 1_000 });
const titles = async (id: string) => (await all(id)).map(({ title }) => title);
async function added(address = "https://garden.example/feed"): Promise<string> {
  const made = await addSourceAt(services, "feed", address);
  if ("problem" in made) throw new Error(made.problem);
  return made.id;
}

it("is found from a page's address, read, and says what it is called", async () => {
  site["/"] = {
    contentType: "text/html",
    body: '<!doctype html><html><link rel="alternate" type="application/rss+xml" href="/feed"></html>',
  };
  site["/feed"] = rss(
    item("One", "<description>First words</description><category>Soil</category>"),
  );
  const id = await added("garden.example");
  expect(await getSource(sql(), id)).toMatchObject({
    name: "Notes",
    address: "https://garden.example/feed",
  });
  const next = await readSource(services, id);
  expect(next!.getTime() - services.clock.now().getTime()).toBe(LIMITS.feedEvery * 60_000);
  expect(await all(id)).toMatchObject([
    {
      title: "One",
      values: {
        link: "https://garden.example/One",
        summary: "First words",
        categories: ["Soil"],
      },
      picture: null,
    },
  ]);
  expect(await addSourceAt(services, "feed", "https://garden.example/feed")).toEqual({
    problem: "It is there already: “Notes”.",
  });
  // Nobody finds it among the tables of records.
  expect((await getSchema(sql())).tables.size).toBe(0);
});

it("says in words why an address cannot be added", async () => {
  site["/page"] = { contentType: "text/html", body: "<!doctype html><html><p>Hello</p></html>" };
  site["/words"] = { contentType: "text/plain", body: "Hello" };
  const problem = async (address: string) =>
    (await addSourceAt(services, "feed", address)) as { problem: string };
  expect(await problem("https://garden.example/page")).toEqual({
    problem: "This page names no feed. Give the address of the feed itself.",
  });
  expect((await problem("https://garden.example/words")).problem).toContain("This is no feed");
  expect((await problem("https://garden.example/none")).problem).toContain("404");
  expect((await problem("http://127.0.0.1:1/")).problem).toContain("private network");
  expect((await problem("file:///etc/passwd")).problem).toContain("http://");
  expect((await problem("")).problem).toContain("no address");
  expect(await getSources(sql())).toEqual([]);
});

it("takes what is new and what has changed, and knows an item under another id by its link", async () => {
  site["/feed"] = rss(item("One", "<guid>a</guid>"), item("Two", "<guid>b</guid>"));
  const id = await added();
  await readSource(services, id);
  const [before] = (await all(id)).filter(({ key }) => key === "a");
  services.clock.advance(60_000);
  site["/feed"] = rss(
    item("Three", "<guid>c</guid>"),
    `<item><title>One, better</title><link>https://garden.example/One</link><guid>a2</guid></item>`,
  );
  await readSource(services, id);
  const found = await all(id);
  expect(found.map(({ title }) => title).sort()).toEqual(["One, better", "Three", "Two"]);
  // It stays the item it was, and as old.
  expect(found.find(({ title }) => title === "One, better")).toMatchObject({
    id: before!.id,
    at: before!.at,
  });
  const changedAt = (await getSource(sql(), id))!.changedAt;
  services.clock.advance(60_000);
  await readSource(services, id);
  expect((await getSource(sql(), id))!.changedAt).toEqual(changedAt);
});

it("takes an article that is dated ahead for one of the moment it was first seen", async () => {
  const dated = (title: string, at: string) => item(title, `<pubDate>${at}</pubDate>`);
  site["/feed"] = rss(
    dated("Tomorrow", "Mon, 02 Mar 2026 20:00:00 GMT"),
    dated("Today", "Mon, 02 Mar 2026 09:00:00 GMT"),
  );
  const id = await added();
  await readSource(services, id);
  const first = services.clock.now();
  services.clock.advance(3_600_000);
  const rest = [dated("Later", "Mon, 02 Mar 2026 10:30:00 GMT")];
  site["/feed"] = rss(dated("Tomorrow", "Mon, 02 Mar 2026 20:00:00 GMT"), ...rest);
  await readSource(services, id);
  const found = await all(id);
  expect(found.map(({ title }) => title)).toEqual(["Later", "Tomorrow", "Today"]);
  expect(found[1]!.at).toEqual(first);
});

it("finds items by their words, who wrote them, and their categories", async () => {
  site["/feed"] = rss(
    item("One", "<description>Frozen parsnips</description><category>Vegetables</category>"),
    item("Two", "<author>x@example.org (Ines Orchard)</author>"),
  );
  const id = await added();
  await readSource(services, id);
  const search = async (words: string) =>
    (await searchItems(sql(), id, { search: words, from: 0, limit: 10 })).map(({ title }) => title);
  expect(await search("frozen pars")).toEqual(["One"]);
  expect(await search("veget")).toEqual(["One"]);
  expect(await search("orchard")).toEqual(["Two"]);
  expect(await search("two")).toEqual(["Two"]);
  expect(await search("& | ! :*")).toHaveLength(await countItems(sql(), id, "& | ! :*"));
});

it("keeps the last items of many, the newest first", async () => {
  site["/feed"] = rss();
  const id = await added();
  const make = (n: number) => ({
    key: String(n),
    title: `Item ${n}`,
    at: new Date(Date.UTC(2020, 0, 1 + n)),
    picture: "",
    values: {},
  });
  await services.database.tx((tx) =>
    takeItems(
      tx,
      { id, kind: "feed" },
      Array.from({ length: 400 }, (_, i) => make(i)),
      services.clock.now(),
    ),
  );
  await services.database.tx((tx) =>
    takeItems(
      tx,
      { id, kind: "feed" },
      Array.from({ length: 400 }, (_, i) => make(i + 300)),
      services.clock.now(),
    ),
  );
  expect(await countItems(sql(), id)).toBe(LIMITS.itemsPerSource);
  const kept = await titles(id);
  expect([kept[0], kept.at(-1)]).toEqual(["Item 699", "Item 200"]);
  expect(await countItems(sql(), id, "item 69")).toBe(10);
});

it("keeps the last good items of a feed that breaks, says what is wrong, and waits longer each time", async () => {
  site["/feed"] = rss(item("One"));
  const id = await added();
  await readSource(services, id);
  site["/feed"] = {
    contentType: "text/html",
    body: "<!doctype html><html>Down for repairs</html>",
  };
  for (const [failures, minutes] of LIMITS.feedWaits.entries()) {
    const next = await readSource(services, id);
    expect(next!.getTime() - services.clock.now().getTime()).toBe(minutes * 60_000);
    expect(await getSource(sql(), id)).toMatchObject({
      failures: failures + 1,
      problem: "This is a page and not a feed.",
    });
  }
  expect(await titles(id)).toEqual(["One"]);
  site["/feed"] = rss(item("One"), item("Two"));
  await readSource(services, id);
  expect(await getSource(sql(), id)).toMatchObject({ failures: 0, problem: null });
  expect(await titles(id)).toHaveLength(2);
});

it("fetches an item's picture once, keeps it as its own, and does without where there is none", async () => {
  const png = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  let asked = 0;
  Object.defineProperty(site, "/a.png", {
    get: () => {
      asked++;
      return { contentType: "image/png", body: png };
    },
  });
  site["/b.png"] = { contentType: "image/png", body: "no picture at all" };
  const enclosure = (name: string) =>
    `<enclosure url="https://garden.example/${name}" type="image/png" length="1"/>`;
  site["/feed"] = rss(
    item("One", enclosure("a.png")),
    item("Two", enclosure("b.png")),
    item("Three", enclosure("c.png")),
  );
  const id = await added();
  await readSource(services, id);
  await readSource(services, id);
  expect(asked).toBe(1);
  const pictures = new Map((await all(id)).map(({ title, picture }) => [title, picture]));
  expect([pictures.get("Two"), pictures.get("Three")]).toEqual([null, null]);
  const { id: picture } = pictures.get("One")!;
  expect(await getPictures(sql(), [picture])).toMatchObject([{ width: 1, height: 1 }]);
  // It is in no list of what people put in.
  expect((await searchPictures(sql())).total).toBe(0);
});

it("counts the items of many sources, and leaves out one that has gone meanwhile", async () => {
  for (const n of [1, 2, 3]) {
    site[`/feed${n}`] = rss(...Array.from({ length: n }, (_, i) => item(`${n}-${i}`)));
    await readSource(services, await added(`https://garden.example/feed${n}`));
  }
  const ids = (await getSources(sql())).map(({ id }) => id);
  expect([...(await countEach(sql(), [...ids, "gone"])).values()].sort()).toEqual([1, 2, 3]);
  expect((await countEach(sql(), [])).size).toBe(0);
});

it("lets two people add the same feed at once, and one of them have it", async () => {
  site["/feed"] = rss(item("One"));
  const both = await Promise.all(
    [1, 2].map(() => addSourceAt(services, "feed", "https://garden.example/feed")),
  );
  expect(both.filter((one) => "id" in one)).toHaveLength(1);
  expect(both.find((one) => "problem" in one)).toBeTruthy();
  expect(await getSources(sql())).toHaveLength(1);
});

it("is removed with its items, and reads no more", async () => {
  site["/feed"] = rss(item("One"));
  const id = await added();
  await readSource(services, id);
  await services.database.tx((tx) => removeSource(tx, id));
  expect(await getSources(sql())).toEqual([]);
  expect(await readSource(services, id)).toBeNull();
  expect(await added()).toBe(id);
});

it("may be removed while it is read, or while its pictures come", async () => {
  const removing = (path: string, answer: StandInAnswer) =>
    Object.defineProperty(site, path, {
      configurable: true,
      get: () =>
        services.database.tx(async (tx) => {
          const [source] = await getSources(tx);
          if (source) await removeSource(tx, source.id);
          return answer;
        }),
    });
  site["/feed"] = rss(item("One"));
  const id = await added();
  removing("/feed", rss(item("One"), item("Two")));
  await readSource(services, id);
  expect(await getSources(sql())).toEqual([]);
  expect(await readSource(services, id)).toBeNull();

  Object.defineProperty(site, "/feed", {
    value: rss(item("One", '<enclosure url="https://garden.example/a.png" type="image/png"/>')),
  });
  const again = await added();
  removing("/a.png", { contentType: "image/png", body: "none" });
  await readSource(services, again);
  expect(await getSources(sql())).toEqual([]);
});

it("ships three sites to try, whose feeds gain items as their time goes on", async () => {
  const own = await startTestServices();
  try {
    for (const host of ["notebook", "walks", "bench"]) {
      const made = await addSourceAt(own, "feed", `https://${host}.larkmoor.example`);
      if ("problem" in made) throw new Error(made.problem);
      await readSource(own, made.id);
      const before = await searchItems(own.database.sql, made.id, {
        search: "",
        from: 0,
        limit: 1_000,
      });
      expect(before.length).toBeGreaterThanOrEqual(29);
      expect(before[0]!.picture).not.toBeNull();
      expect(said(before[0]!, "summary")).not.toBe("");
      await saveSetting(own.database.sql, "standIns", { ahead: 10 });
      await readSource(own, made.id);
      const after = await countItems(own.database.sql, made.id);
      expect(after).toBeGreaterThan(before.length);
      await saveSetting(own.database.sql, "standIns", { ahead: 0 });
    }
  } finally {
    await own.close();
  }
  // A hundred images are drawn for it.
}, 60_000);
