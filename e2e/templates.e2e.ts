/** A template that changes: seen in the campaigns started from it before it is carried into them, and taken back. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
}, 180_000);
afterAll(() => own?.end());

const stored = async (path: string) => JSON.stringify(await studio.storedDocument(path));
async function write(css: string, words: string): Promise<void> {
  await studio.clickIn("wide", css, 2);
  await studio.selectAll();
  await studio.driver.actions().sendKeys(words).perform();
  await studio.saved();
  await studio.driver.actions().sendKeys(Key.ESCAPE).perform();
}

it("is changed from a campaign, carried into another with what was changed by hand kept, and taken back", async () => {
  const heading = "h1[data-text], h2[data-text]";
  const mine = await studio.newCampaign("With changes by hand", "Template: Calm newsletter");
  await write(heading, "Written by hand");
  const source = await studio.newCampaign("To change it by", "Template: Calm newsletter");
  await write(heading, "As the template says now");
  await studio.addBlock("Quote");

  await studio.go("/templates");
  await studio.click("Calm newsletter", "a");
  await studio.sees("Every campaign that is not sent has what the template says.");
  await studio.choose("As it is in", "To change it by");
  await studio.click("Make it the template");
  await studio.sees("With the change");
  await studio.sees("stays as changed by hand");
  expect(await serious(studio, "a template’s change")).toEqual([]);
  const shown = () =>
    studio.run<string>(
      "return [...document.querySelectorAll('figure iframe')].at(-1).contentDocument?.body?.innerText ?? ''",
    );
  await studio.until("what would change", async () =>
    (await shown()).includes("What somebody said about you"),
  );
  expect(await shown()).toContain("Written by hand");
  expect(await stored(mine)).not.toContain('"quote"');
  await studio.click("Carry it into 1 campaign");
  await studio.sees("Carried into “With changes by hand”.");
  expect(await stored(mine)).toContain('"quote"');
  expect(await stored(mine)).toContain("Written by hand");
  expect(await stored(source)).toContain("As the template says now");

  await studio.go(mine);
  await studio.composing();
  await studio.click("Undo");
  await studio.saved();
  expect(await stored(mine)).not.toContain('"quote"');
  expect(await stored(mine)).toContain("Written by hand");
}, 180_000);
