/** An A/B test from its set-up to the rest, read by the readers that ship with the application. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import { confirm, toVolunteers } from "./sending.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
let readers: number;
let path: string;
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
  path = await studio.newCampaign("Which seeds", "Earlier campaign: Seed list");
  await studio.addBlock("Question");
  await studio.saved();
  readers = await toVolunteers(studio, path);
}, 120_000);
afterAll(() => own?.end());

const type = async (words: string) => {
  await studio.driver.actions().sendKeys(words).perform();
};

it("is planned with another subject, keeps what is typed, and says what it can show", async () => {
  await studio.go(`${path}/schedule`);
  await studio.click("Now", "button");
  await studio.click("Add a variant", "button");
  await studio.click("B: subject");
  await type("Seeds?");
  await studio.fill("Test group, % of readers", "60");
  await studio.sees(`${Math.floor((readers * 0.6) / 2)} readers for each variant`);
  await studio.sees("will not show.");
  await studio.choose("Decided", "by a person");
  expect(await serious(studio, "the plan of a test")).toEqual([]);
  await studio.until("the plan to be kept", async () => {
    await studio.go(`${path}/schedule`);
    // The words of a variant stand there when what they are written with does.
    return studio.sees("Seeds?", 3_000).then(
      () => true,
      () => false,
    );
  });
  await studio.sees(`${Math.floor((readers * 0.6) / 2)} readers get each of 2 variants first`);
}, 120_000);

it("leaving at once loses nothing that was typed, and a second person writes over nothing", async () => {
  const other = await own.another();
  await other.go(`${path}/schedule`);
  await other.sees("Seeds?");
  await studio.go(`${path}/schedule`);
  await studio.click("B: preview text");
  await type("Of this year");
  await studio.click("Readers, ready", "a");
  await studio.sees("Who gets it");
  await studio.go(`${path}/schedule`);
  await studio.sees("Of this year");
  await other.fill("Test group, % of readers", "70");
  await other.sees("Somebody else has changed the A/B test meanwhile");
  await studio.go(`${path}/schedule`);
  await studio.sees("Of this year");
  expect(await (await studio.named("Test group, % of readers")).getAttribute("value")).toBe("60");
}, 120_000);

it("a variant can have an email of its own, which is written and looked at like any other", async () => {
  await studio.click("Add a variant", "button");
  await studio.click("Give C an email of its own", "button");
  await studio.composing();
  await studio.sees("Which seeds, C");
  expect(await serious(studio, "a variant")).toEqual([]);
  const variant = new URL(await studio.driver.getCurrentUrl()).pathname;
  // Its readers and its time are those of its campaign.
  await studio.go(`${variant}/schedule`);
  expect(new URL(await studio.driver.getCurrentUrl()).pathname).toBe(`${path}/schedule`);
  await studio.sees("Open it in Compose");
  await studio.go("/campaigns");
  expect(await studio.pageText()).not.toContain("Which seeds, C");
}, 120_000);

it("goes to equally many, is read, and somebody sends the better one to the rest", async () => {
  await studio.go(`${path}/schedule`);
  await studio.click("Take C out");
  await studio.click("Now", "button");
  await studio.click("Send it now");
  await confirm(studio, "Yes, send to");
  await studio.sees("The A/B test waits for you");
  expect(await serious(studio, "waiting for a word")).toEqual([]);
  await studio.go("/outbox");
  await studio.sees("messages are unread");
  await studio.click("ten seconds", "button");
  await studio.sees("They are reading");
  await studio.sees("They have read everything.", 40_000);
  await studio.go(`${path}/results`);
  await studio.sees("is the best with");
  expect(await serious(studio, "results of a test")).toEqual([]);
  const text = await studio.pageText();
  expect(text).toContain("Seeds?");
  expect(text).toMatch(/[1-9][0-9]* people answered, each counted once/);
  await studio.click("Send B to the rest");
  await studio.sees("The rest gets B:");
  await studio.go(`${path}/schedule`);
  await studio.sees("It has been sent.");
  await studio.go("/outbox?search=Seeds%3F");
  const each = Math.floor((readers * 0.6) / 2);
  await studio.sees(`${readers - each} messages`);
}, 180_000);
