/** The email in the frames of a page that is loaded as a whole, before its script is there. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { smallCampaign } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { createComposer } from "../compose/create.ts";
import { contentOf, servedPage, writtenOf } from "../compose/sheets/written.ts";
import { unpack } from "../pack.ts";
import { routeArgs } from "../testing/route.ts";
import { loader as sheet } from "./api.sheet.ts";
import { loader as compose } from "./campaign.compose.tsx";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org"]);
});
afterAll(() => services.close());

const composing = (headers: Record<string, string> = {}) =>
  compose(routeArgs(services, made.member, { headers }, { campaign: made.campaign.id }));
const page = (params: Record<string, string> = {}) =>
  sheet(routeArgs(services, made.member, {}, params));

it("is what the application would write there, and nothing can be done in it yet", async () => {
  const start = await composing({ "sec-fetch-dest": "document" });
  const answer = page({ served: start.served! });
  expect(answer.headers.get("cache-control")).toBe("no-store");
  expect(answer.headers.get("content-security-policy")).toContain("default-src 'none'");
  const served = await answer.text();
  const here = { ...start, doc: unpack(start.doc), selected: null, field: null };
  const { first } = createComposer(here, () => {}).reading;
  const { html } = writtenOf(contentOf(first));
  const inside = (text: string) => text.slice(text.indexOf("<head"));
  expect(inside(served.replace("<body inert", "<body"))).toBe(inside(html));
  expect(served).toMatch(/^<!doctype html><html data-served /);
  expect(served).toContain("<body inert");
  expect(served).toContain("Visit");
});

it("holds hostile words in every line of the envelope and in texts as words", async () => {
  const start = await composing();
  const doc = unpack(start.doc);
  const hostile = `</head><body onload="x()"><script>y()</script></title>$& <html`;
  const spelled = JSON.stringify(hostile).slice(1, -1);
  const email = JSON.parse(
    JSON.stringify(doc).replaceAll('"Visit"', () => `"${spelled}"`),
  ) as typeof doc;
  const props = email.root.props as unknown as { envelope: object };
  const words = { type: "line", content: [{ type: "text", text: hostile }] };
  Object.assign(props.envelope, { subject: words, preview: words, fromName: words });
  const here = { ...start, doc: email, selected: null, field: null };
  const page = servedPage(contentOf(createComposer(here, () => {}).reading.first));
  expect(page.match(/<body/g)).toEqual(["<body"]);
  expect(page).toContain("<body inert");
  expect(page.match(/<html/g)).toEqual(["<html"]);
  expect(page).not.toContain("<script");
  expect(page).toContain("&lt;script");
});

it("is asked for by whole pages alone; who comes from another page writes it", async () => {
  expect((await composing()).served).toBeNull();
  expect((await composing({ "sec-fetch-dest": "empty" })).served).toBeNull();
});

it("is an empty page where it is not kept any more", async () => {
  for (const answer of [page(), page({ served: "AAAAAAAAAAAA" })]) {
    expect(await answer.text()).toContain("<title>Sheet</title></head><body></body>");
  }
});
