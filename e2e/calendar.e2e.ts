/** The calendar: two emails to the same people on one day are seen, and one of them is moved away. */
import { By } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import { confirm, toVolunteers } from "./sending.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
let readers: number;
/** The month after this one, in which no day has passed. */
const next = new Date();
next.setDate(1);
next.setMonth(next.getMonth() + 1);
const month = `${next.getFullYear()}-${String(next.getMonth() + 1).padStart(2, "0")}`;
const written = (day: number) => `${day}/${next.getMonth() + 1}/${next.getFullYear()}`;

async function scheduled(name: string): Promise<void> {
  const path = await studio.newCampaign(name, "Earlier campaign: Seed list");
  readers = await toVolunteers(studio, path);
  await studio.go(`${path}/schedule`);
  await studio.fill("Day", written(15));
  await studio.click("Schedule it");
  await confirm(studio, "Yes, schedule for");
  await studio.sees("Scheduled for");
}
const on = async (day: number) => (await studio.find(`td[data-day="${month}-${day}"]`)).getText();

beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
  await scheduled("Walk in the woods");
  await scheduled("Talk in the barn");
}, 180_000);
afterAll(() => own?.end());

it("shows what goes out, and who gets two emails on one day", async () => {
  await studio.go("/");
  await studio.click("Calendar", "a");
  await studio.go(`/calendar?month=${month}`);
  await studio.sees(`${readers} get both`);
  expect(await on(15)).toContain("Walk in the woods");
  expect(await on(15)).toContain("Talk in the barn");
  expect(await serious(studio, "the calendar")).toEqual([]);
}, 60_000);

it("moves one of them away by drag, and nobody gets both", async () => {
  const entry = await studio.driver.findElement(By.css('[data-entry="Talk in the barn"]'));
  const to = await studio.driver.findElement(By.css(`td[data-day="${month}-17"]`));
  const actions = studio.driver.actions({ async: true });
  await actions
    .move({ origin: entry, x: 0, y: 0 })
    .press()
    .move({ origin: entry, x: 12, y: 4, duration: 100 })
    .move({ origin: to, duration: 300 })
    .move({ origin: to, x: 2, y: 2, duration: 100 })
    .release()
    .perform();
  await studio.until("it to be there", async () => (await on(17)).includes("Talk in the barn"));
  await studio.until(
    "the clash to be gone",
    async () => !(await studio.pageText()).includes("get both"),
  );
}, 60_000);

it("moves by keyboard too, and says why it cannot be", async () => {
  await studio.click("Move Walk in the woods to another day");
  await studio.fill("To the day", "1/1/2020");
  await studio.click("Move it");
  await studio.sees("That time has passed.");
  expect(await serious(studio, "moving")).toEqual([]);
  await studio.fill("To the day", written(16));
  await studio.click("Move it");
  await studio.until("it to be there", async () => (await on(16)).includes("Walk in the woods"));
}, 60_000);
