/** What readers of emails follow: pixel, links, unsubscribing, the web version. */
import { RouterContextProvider } from "react-router";
import { afterAll, beforeAll, expect, it } from "vitest";
import { linkAddress, mergeText } from "#core/merge/index.ts";
import { pagePhrases } from "#core/phrases/pages.ts";
import { STANDARD_THEME } from "#core/theme/theme.ts";
import { readyLaunch } from "#server/campaigns/emails.ts";
import { scheduleCampaign } from "#server/campaigns/scheduling.ts";
import { servicesContext } from "#server/http/context.ts";
import { runLaunch } from "#server/jobs/sender.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { getLaunch } from "#server/store/launches/freeze.ts";
import { setUncounted } from "#server/store/reading.ts";
import { clicksByLink, machinesIn, measuresOf } from "#server/store/results.ts";
import { saveSetting } from "#server/store/settings.ts";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { isPublic } from "../public.ts";
import { loader as made } from "./api.made.ts";
import { loader as click } from "./reader.click.ts";
import { loader as open } from "./reader.open.ts";
import { loader as shared } from "./reader.shared.ts";
import { action as unsubscribe, loader as unsubscribePage } from "./reader.unsubscribe.tsx";
import { loader as web } from "./reader.web.ts";

let services: TestServices;
let launch: string;
let campaign: string;
const tokens: string[] = [];
beforeAll(async () => {
  services = await startTestServices();
  const made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
  campaign = made.campaign.id;
  await scheduleCampaign(services, made.campaign, null, "Europe/London", made.member.id);
  launch = (await getCampaign(services.database.sql, campaign))!.launchId!;
  await runLaunch(services, launch);
  const rows = await services.database.sql<{ id: number }>`select id from recipients order by id`;
  for (const { id } of rows) tokens.push(services.signer.sign({ kind: "message", recipient: id }));
  services.clock.advance(60_000);
});
afterAll(() => services.close());

const context = () => {
  const provider = new RouterContextProvider();
  provider.set(servicesContext, services);
  return provider;
};
const args = (
  params: Record<string, string>,
  agent = "Mozilla/5.0 (X11)",
  method = "GET",
  // biome-ignore lint/suspicious/noExplicitAny: each route's own argument type, filled with what it reads
): any => ({
  params,
  context: context(),
  request: new Request("http://localhost/", { method, headers: { "User-Agent": agent } }),
});
const measures = () => measuresOf(services.database.sql, launch);

it("counts an open once per person, however often the picture is fetched", async () => {
  for (let i = 0; i < 3; i++) {
    const answer = await open(args({ token: `${tokens[0]}.gif` }));
    expect(answer.headers.get("content-type")).toBe("image/gif");
    expect(answer.headers.get("cache-control")).toContain("no-store");
  }
  expect(await measures()).toMatchObject({ opened: 1, clicked: 0 });
});

it("leads a click only to an address of the email, and counts it", async () => {
  const answer = await click(args({ token: tokens[1]!, link: "1" }));
  expect(answer.status).toBe(302);
  expect(answer.headers.get("location")).toBe("https://larkmoor.example/visit");
  await click(args({ token: tokens[1]!, link: "1" }));
  expect(await measures()).toMatchObject({ opened: 2, clicked: 1 });
  expect(await clicksByLink(services.database.sql, launch)).toEqual([
    { link: 1, clicks: 2, people: 1 },
  ]);
});

it("leaves out what machines open and follow, and tells it apart", async () => {
  const { sql } = services.database;
  const before = await measures();
  await open(args({ token: `${tokens[0]}.gif` }, "ImageProxy/1.0"));
  await click(args({ token: tokens[0]!, link: "1" }, "LinkScanner 2"));
  await click(args({ token: tokens[0]!, link: "1" }, "Mozilla/5.0 (X11)", "HEAD"));
  expect(await measures()).toEqual(before);
  expect(await machinesIn(sql, launch)).toEqual({ opens: 1, clicks: 2, messages: 1 });
  const [first] = await clicksByLink(sql, launch);
  expect(first).toEqual({ link: 1, clicks: 2, people: 1 });
});

it("counts nothing of whoever has said so, in what is sent before and after", async () => {
  const { sql } = services.database;
  const before = await measures();
  const [who] = await sql<{
    contact: number;
  }>`select contact_id as contact from recipients order by id limit 1`;
  await setUncounted(sql, who!.contact, true);
  await open(args({ token: `${tokens[0]}.gif` }));
  // The link leads on all the same.
  const answer = await click(args({ token: tokens[0]!, link: "1" }));
  expect(answer.headers.get("location")).toBe("https://larkmoor.example/visit");
  expect(await measures()).toEqual(before);
  await setUncounted(sql, who!.contact, false);
});

it("gives 404 for what was tampered with, and counts nothing", async () => {
  const before = await measures();
  const [token] = tokens as [string];
  const forged = token.replace(/.$/, token.endsWith("A") ? "B" : "A");
  const unknown = services.signer.sign({ kind: "message", recipient: 999_999 });
  const sample = services.signer.sign({ kind: "sample", campaign, contact: 1 });
  for (const bad of [forged, unknown, "m1", ""]) {
    expect((await open(args({ token: `${bad}.gif` }))).status).toBe(404);
    expect((await click(args({ token: bad, link: "1" }))).status).toBe(404);
    expect((await web(args({ token: bad }))).status).toBe(404);
    await expect(unsubscribe(args({ token: bad }))).rejects.toMatchObject({
      init: { status: 404 },
    });
  }
  for (const link of ["0", "99", "-1", "1.5", "https://evil.example", ""]) {
    expect((await click(args({ token, link }))).status).toBe(404);
  }
  expect((await open(args({ token }))).status).toBe(404);
  expect((await open(args({ token: `${sample}.gif` }))).status).toBe(404);
  expect(await measures()).toEqual(before);
});

it("shows a reader's own web version, with links as they are", async () => {
  const html = await (await web(args({ token: tokens[0]! }))).text();
  expect(html).toContain("Dear Reader 0, welcome.");
  expect(html).toContain('href="https://larkmoor.example/visit"');
  expect(html).not.toContain("/o/");
  const answer = await web(args({ token: tokens[1]! }));
  expect(await answer.text()).toContain("Dear friend, welcome.");
  expect(answer.headers.get("content-security-policy")).toContain("default-src 'none'");
});

it("takes off only when asked by POST, and only whom it names", async () => {
  const { page, ...asked } = await unsubscribePage(args({ token: tokens[0]! }));
  expect(page.brand).toBe("Larkmoor");
  expect(asked).toEqual({ email: "one@example.org", language: "en", choices: false });
  expect(await measures()).toMatchObject({ unsubscribed: 0 });
  await unsubscribe(args({ token: tokens[0]! }));
  await unsubscribe(args({ token: tokens[0]! }));
  expect(await measures()).toMatchObject({ unsubscribed: 1 });
  const held = await services.database.sql`select email_folded, reason from suppressions`;
  expect(held).toEqual([{ email_folded: "one@example.org", reason: "unsubscribed" }]);
});

it("takes nobody off from a test message, and shows the draft as its web version", async () => {
  const token = services.signer.sign({ kind: "sample", campaign, contact: 1 });
  expect(await unsubscribe(args({ token }))).toEqual({ done: true });
  expect(await measures()).toMatchObject({ unsubscribed: 1 });
  expect(await (await web(args({ token }))).text()).toContain("Dear Reader 0, welcome.");
});

it("shows others the email with nothing of the reader in it", async () => {
  const own = await (await web(args({ token: tokens[0]! }))).text();
  expect(own).toContain("Dear Reader 0");
  expect(own).toContain(`/u/${tokens[0]}`);
  const answer = await shared(args({ token: tokens[0]! }));
  const html = await answer.text();
  expect(answer.headers.get("content-security-policy")).toContain("default-src 'none'");
  expect(html).toContain("Dear friend");
  expect(html).not.toContain(tokens[0]!);
  // Nobody but the reader can leave or choose for her: such links are gone, not broken.
  expect(html).not.toMatch(/\/[upws]\//);
  expect(html).not.toContain("Unsubscribe");
  expect(answer.headers.get("x-robots-tag")).toBe("noindex");
  expect(answer.headers.get("content-language")).toBe("en-GB");
  expect((await shared(args({ token: "nonsense" }))).status).toBe(404);
  const sample = services.signer.sign({ kind: "sample", campaign, contact: 1 });
  expect((await shared(args({ token: sample }))).status).toBe(404);
});

it("gives a made picture to whoever has its sealed address, and to nobody else", async () => {
  const recipe = Buffer.from(
    JSON.stringify({ kind: "qr", words: "hello", settings: { ink: "#000000", ground: "#ffffff" } }),
  ).toString("base64url");
  const file = `${services.signer.seal(recipe)}.png`;
  const answer = await made(args({ recipe, file }));
  expect(answer.headers.get("content-type")).toBe("image/png");
  expect(answer.headers.get("cross-origin-resource-policy")).toBe("cross-origin");
  expect(isPublic(`/made/${recipe}/${file}`)).toBe(true);
  // Without a seal the guard asks for a session first.
  expect(isPublic(`/made/${recipe}/-.png`)).toBe(false);
  for (const wrong of ["AAAAAAAAAAAAAAAAAAAA.png", "x.svg", ".png"]) {
    expect((await made(args({ recipe, file: wrong }))).status).toBe(404);
  }
  const other = Buffer.from("{}").toString("base64url");
  expect(
    (await made(args({ recipe: other, file: `${services.signer.seal(other)}.png` }))).status,
  ).toBe(404);
});

it("keeps the numbers that links were sent under, in whatever order they are met later", async () => {
  const { sql } = services.database;
  const kept = (await getLaunch(sql, launch))!;
  expect(kept.links!.map(({ words }) => words)).toEqual([
    "Visit",
    "Read this on the web",
    "Choose what you get",
    "Unsubscribe",
  ]);
  const turned = { ...kept, id: "turned", links: kept.links!.toReversed() };
  const { compiled, sent } = readyLaunch(turned, services.signer).forReader({ values: {} });
  expect(linkAddress(compiled, 4, { values: {}, token: "t" })).toBe(
    "https://larkmoor.example/visit",
  );
  expect(mergeText(sent.html, { values: {}, token: "t" })).toContain("/c/t/4");
  const older = readyLaunch({ ...kept, id: "older", links: null }, services.signer);
  expect(older.compiled.links.map(({ words }) => words)[0]).toBe("Visit");
});

it("wears the brand's theme and logo, and says what the house says in its own words", async () => {
  const { sql } = services.database;
  const theme = { ...STANDARD_THEME, colours: { ...STANDARD_THEME.colours, accent: "#7a1f3d" } };
  await saveSetting(sql, "theme", theme);
  const pages = { logo: "a".repeat(64), words: { en: { unsubscribeAsk: "Leaving us?" }, fr: {} } };
  await saveSetting(sql, "pages", pages);
  const { page, language } = await unsubscribePage(args({ token: tokens[0]! }));
  // A logo that is gone is none: the name stands there.
  expect([page.style["--light-accent"], page.dark, page.logo]).toEqual(["#7a1f3d", true, null]);
  const say = pagePhrases(language, page.words);
  expect([say.unsubscribeAsk, say.unsubscribe]).toEqual(["Leaving us?", "Unsubscribe"]);
});
