import { afterEach, beforeEach, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { LIMITS } from "#core/limits.ts";
import { line, type TextJson, tag } from "#core/text/index.ts";
import { examine } from "../campaigns/findings.ts";
import { loadDocument } from "../store/documents.ts";
import { campaignOf } from "../testing/personal.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";
import { askLinks, haveLinksAsked, isAskingLinks } from "./asking.ts";

let services: TestServices;
/** What was asked, in its order. */
let asked: string[];
beforeEach(async () => {
  const shipped = await startTestServices();
  asked = [];
  services = {
    ...shipped,
    fetcher: (address, options) => {
      expect(options?.only).toBe("whether");
      asked.push(address);
      return shipped.fetcher(address, options);
    },
  };
});
afterEach(() => services.close());

const to = (...address: Parameters<typeof line>) => ({ kind: "web", address: line(...address) });
const linked = (words: string, address: string): TextJson => {
  const mark = { type: "link", attrs: { to: to(address) as never } };
  const paragraph = { type: "paragraph", content: [{ type: "text", text: words, marks: [mark] }] };
  return { type: "doc", content: [paragraph] };
};

async function begun() {
  const made = await campaignOf(services, (id) => [
    createBlock("button", id, { label: line("Visit"), to: to("https://larkmoor.example/visit") }),
    createBlock("button", id, { label: line("Gone"), to: to("https://larkmoor.example/nothing") }),
    createBlock("button", id, { label: line("Beds"), to: to("https://larkmoor.example/beds") }),
    createBlock("button", id, { label: line("Shop"), to: to("https://larkmoor.example/old-shop") }),
    createBlock("button", id, { label: line("Again"), to: to("https://larkmoor.example/nothing") }),
    createBlock("button", id, { label: line("Own"), to: to("http://127.0.0.1/secret") }),
    createBlock("button", id, {
      label: line("Yours"),
      to: to("https://larkmoor.example/", tag("contact:first_name", "you")),
    }),
    createBlock("text", id, { words: linked("a film", "https://larkmoor.example/films/frost") }),
  ]);
  const { sql } = services.database;
  const stored = (await loadDocument(sql, made.campaign.documentId))!;
  const found = async () =>
    (await examine(services, made.campaign))!.findings.filter(
      ({ check }) => check === "link-answer",
    );
  return { ...made, email: stored.doc, found };
}

it("asks at each address once, and tells what leads to nothing or far", async () => {
  const { campaign, email, found } = await begun();
  expect(await found()).toEqual([]);
  expect(await isAskingLinks(services, campaign.id)).toBe(false);
  expect(await haveLinksAsked(services, campaign.id, email)).toBe(true);
  expect(await isAskingLinks(services, campaign.id)).toBe(true);
  await askLinks(services, campaign.id);
  expect(asked.sort()).toEqual(
    ["beds", "films/frost", "nothing", "old-shop", "visit"].map(
      (path) => `https://larkmoor.example/${path}`,
    ),
  );
  expect((await found()).map(({ severity, message }) => `${severity}: ${message}`)).toEqual([
    "look: A link leads to nothing",
    "look: A link leads to nothing",
    "hint: A link leads on 2 times",
  ]);
  const [beds] = (await found()).filter(({ severity }) => severity === "hint");
  expect(beds!.mends!.map(({ label }) => label)).toEqual([
    "Make it https://larkmoor.example/visit",
  ]);
});

it("remembers for a while, and asks nothing then", async () => {
  const { campaign, email } = await begun();
  await askLinks(services, campaign.id);
  const first = asked.length;
  expect(await haveLinksAsked(services, campaign.id, email)).toBe(false);
  await askLinks(services, campaign.id);
  expect(asked).toHaveLength(first);
  services.clock.advance(LIMITS.linkAnswerFresh);
  expect(await haveLinksAsked(services, campaign.id, email)).toBe(true);
  await askLinks(services, campaign.id);
  expect(asked).toHaveLength(2 * first);
  // Of a campaign that is gone there is nothing to ask.
  await askLinks(services, "gone");
});
