/** Pages for readers: in the brand's theme, with its logo, in its own words. */
import { By } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import { sendNow, toVolunteers } from "./sending.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
}, 180_000);
afterAll(() => own?.end());

/** The page that a message leads to for unsubscribing. */
async function unsubscribing(): Promise<string> {
  const path = await studio.newCampaign("To leave by", "Earlier campaign: Seed list");
  await toVolunteers(studio, path);
  await sendNow(studio, path);
  await studio.sees("It has been sent.", 60_000);
  await studio.go("/outbox");
  const message = await studio.run<string>(
    "return document.querySelector('main a[href^=\"/outbox/\"]').getAttribute('href')",
  );
  const html = await studio.run<string>(
    "return fetch(arguments[0] + '/html').then((answer) => answer.text())",
    message,
  );
  return new URL(/href="([^"]*\/u\/[^"]*)"/.exec(html)![1]!).pathname;
}
const looks = () =>
  studio.run<{ ground: string; button: string }>(
    "const style = (one) => getComputedStyle(document.querySelector(one)); return { ground: style('.branded').backgroundColor, button: style('.branded form button').backgroundColor }",
  );

it("look as the theme of new emails does, and say what the settings say", async () => {
  const page = await unsubscribing();
  await studio.go(page);
  const before = await looks();
  expect(before.ground).toBe("rgb(242, 238, 230)");
  expect(before.button).toBe("rgb(31, 61, 46)");
  expect(await serious(studio, "a page for readers")).toEqual([]);

  await studio.go("/settings");
  await studio.fill("Unsubscribing: the question", "Leaving the garden?");
  await studio.click("Français");
  await studio.fill("Unsubscribing: the question", "Quitter le jardin ?");
  await studio.click("Choose the logo");
  await studio.click("Take glasshouse");
  await studio.click("Save the pages");
  await studio.sees("Saved");
  await studio.go(page);
  const title = await studio.driver.findElement(By.css("h1")).getText();
  expect(["Leaving the garden?", "Quitter le jardin ?"]).toContain(title);
  const logo = await studio.driver.findElement(By.css(".branded img"));
  expect(await logo.getAttribute("alt")).toBe("Larkmoor Botanic Garden");
  expect(await studio.run<number>("return arguments[0].naturalWidth", logo)).toBeGreaterThan(0);

  // What the house says stands there when the settings are opened again.
  await studio.go("/settings");
  const field = await studio.named("Unsubscribing: the question");
  expect(await field.getAttribute("value")).toBe("Leaving the garden?");
}, 120_000);
