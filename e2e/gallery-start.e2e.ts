/** Starting a campaign from the gallery of templates. */
import { By } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
});
afterAll(() => own?.end());

const names = () =>
  studio.run<string[]>(
    "return [...document.querySelectorAll('main li a')].map((one) => one.innerText.trim())",
  );
/** How the chosen email looks where it is shown large. */
const looks = () =>
  studio.run<string>(
    "return document.querySelector('main aside iframe')?.contentDocument?.body?.innerHTML ?? ''",
  );

it("is searched and narrowed, and what is kept at hand is found again", async () => {
  await studio.go("/campaigns/new");
  expect(await names()).toHaveLength(12);
  expect(await serious(studio, "start of a campaign")).toEqual([]);
  await studio.click("Letters 3");
  await studio.until("the letters", async () => (await names()).length === 3);
  expect(await names()).toEqual(["Welcome", "Thank you", "Plain letter"]);
  await studio.click("Keep “Plain letter” at hand");
  await studio.click("Kept 1");
  await studio.until("what is kept", async () => (await names()).length === 1);
  expect(await names()).toEqual(["Plain letter"]);
  await studio.driver.findElement(By.css("input[name=search]")).sendKeys("nothing like that");
  await studio.sees("No matches");
});

it("is seen in another theme, and begins as it was seen", async () => {
  await studio.go("/campaigns/new");
  await studio.click("Welcome", "a");
  await studio.sees("The first email somebody gets, with three ways to begin.");
  await studio.click("Plum and straw");
  await studio.until("the other theme", async () => (await looks()).includes("#5c2338"));
  await studio.fill("Name of the campaign", " ");
  await studio.click("Start composing");
  await studio.sees("Give it a name that you will find again.");
  await studio.fill("Name of the campaign", "Welcome, all");
  await studio.click("Start composing");
  await studio.composing();
  expect(await studio.sheetText("wide")).toContain("Good that you are here");
  await studio.saved();
  await studio.go(new URL(await studio.driver.getCurrentUrl()).pathname);
  await studio.composing();
  const sheet = await studio.run<string>(
    "return document.querySelector('iframe').contentDocument.documentElement.innerHTML",
  );
  expect(sheet).toContain("#5c2338");
});

it("an email is saved as a template, begun from, deleted, and put back", async () => {
  await studio.go("/campaigns?search=notebook");
  await studio.click("More about The gardeners’ notebook");
  await studio.click("Save as a template…");
  await studio.fill("Name", "Our notebook");
  await studio.fill("What it is for", "Three things from the beds.");
  expect(await serious(studio, "saving a template")).toEqual([]);
  await studio.click("Save the template");
  await studio.sees("Three things from the beds.");
  await studio.click("Start a campaign from it");
  await studio.until("it to be chosen", async () => (await looks()).includes("notebook"));
  await studio.click("Start composing");
  await studio.composing();
  expect(await studio.sheetText("wide")).toContain("three things from the beds");
  await studio.go("/templates?search=Our notebook");
  await studio.click("More about Our notebook");
  await studio.click("Delete");
  await studio.sees("No matches");
  await studio.click("Undo");
  await studio.sees("Three things from the beds.");
});
