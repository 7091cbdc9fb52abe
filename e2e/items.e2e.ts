/** Items of sources in an email, as a designer meets them: designed once, chosen by rule, each reader's own, and looked at again when it leaves. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import { confirm, toVolunteers } from "./sending.ts";
import { moveOn } from "./stand-ins.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
beforeAll(async () => {
  // Days go by here, and readers are counted long before the email leaves.
  own = await ownStudio();
  studio = own.studio;
});
afterAll(() => own?.end());

const titlesOnSheet = (css: string) =>
  studio.inSheet<string[]>(
    "wide",
    `return [...page.querySelectorAll('${css}')].map((one) => one.innerText.trim())`,
  );
/** A price that is another when the time has moved on stops what was scheduled before. */
it("a price that has changed stops a send, and a person lets it go on", async () => {
  const path = await studio.newCampaign("From the shop", "Earlier campaign: In flower this week");
  const readers = await toVolunteers(studio, path);
  await studio.go(`${path}/schedule`);
  await studio.sees("What comes from feeds, the shop and calendars");
  expect(await serious(studio, "a schedule with items")).toEqual([]);
  // What sells low is sold out on other days: that stops it too, as it comes.
  // The shop has to be read before it leaves, and that takes as long as it takes.
  const soon = new Date(Date.now() + 9 * 60_000);
  const parts = new Intl.DateTimeFormat("en-GB", {
    ...{ timeZone: "Europe/London", hour: "2-digit", minute: "2-digit", hourCycle: "h23" },
    ...{ day: "2-digit", month: "2-digit", year: "numeric" },
  }).formatToParts(soon);
  const of = (type: string) => parts.find((one) => one.type === type)!.value;
  await studio.fill("Day", `${of("day")}/${of("month")}/${of("year")}`);
  await studio.fill("Time", `${of("hour")}:${of("minute")}`);
  await studio.click("Schedule it");
  await confirm(studio, "Yes, schedule for");
  await studio.sees("Scheduled for");
  // The shop's sales change with the week.
  await moveOn(studio, 8);
  own.later();
  await studio.go(`${path}/schedule`);
  await studio.sees("Something it shows has changed", 60_000);
  const why = await studio.pageText();
  expect(why).toMatch(/costs £|is sold out|is over/);
  await studio.click("Resume");
  await studio.sees("Gone", 60_000);
  await studio.sees(String(readers));
  await studio.go(`${path}/results`);
  await studio.sees("Items it brought");
  await studio.sees("all readers");
}, 180_000);

it("a digest is made, its item restyled once for all, and new items come by themselves", async () => {
  const path = await studio.newCampaign("A digest", "Template: Calm newsletter");
  await studio.addBlock("Digest");
  await studio.saved();
  await studio.choose("Start over with a layout", "Titles with their words");
  await studio.until("three titles", async () => (await titlesOnSheet("h3")).length >= 3);
  const reasons = () =>
    studio.run<string[]>(
      "return [...document.querySelectorAll('[aria-label=\"What is shown, and why\"] li')].map((one) => one.innerText.split('\\n')[0])",
    );
  await studio.until("the reasons", async () => (await reasons()).length === 3);
  const before = await reasons();
  // Restyled in one place, it is another everywhere.
  await studio.clickIn("wide", "h3[data-text]");
  await studio.choose("Level", "2");
  await studio.until("all of them to be of level 2", async () => {
    const titles = await titlesOnSheet("h2");
    return before.every((title) => titles.includes(title));
  });
  // Written in place, with the item's own title among the words.
  await studio.clickIn("wide", "h2[data-text]", 2);
  await studio.press(Key.END, " – read on", Key.ESCAPE);
  await studio.saved();
  await studio.until("the words with each of them, on both sheets", async () => {
    const titles = await titlesOnSheet("h2");
    return before.every((title) => titles.includes(`${title} – read on`));
  });
  await studio.sheetShows("narrow", `${before[2]} – read on`);
  expect(await serious(studio, "a digest")).toEqual([]);
  // One that has come since stands in it by itself.
  await moveOn(studio, 3);
  await studio.go(path);
  await studio.composing();
  await studio.clickRow("Digest");
  await studio.until("another article first", async () => {
    const now = await reasons();
    return now.length === 3 && now[0] !== before[0];
  });
  const [newest] = await reasons();
  await studio.sheetShows("wide", `${newest} – read on`);
}, 180_000);

it("a shelf is each reader's own, and says why; a rule narrows it", async () => {
  await studio.newCampaign("Two readers", "Earlier campaign: In flower this week");
  await studio.clickRow("Shelf");
  const shown = () =>
    studio.run<string>(
      "return document.querySelector('[aria-label=\"What is shown, and why\"]')?.innerText ?? ''",
    );
  await studio.until("what the first reader gets", async () =>
    (await shown()).includes("to fill up"),
  );
  const seen = new Set<string>();
  // Somebody has bought something: others bought more besides.
  await studio.until(
    "a reader with reasons of their own",
    async () => {
      seen.add(await shown());
      if ((await shown()).includes("often bought with “")) return true;
      await studio.click("Next contact");
      await studio.driver.sleep(400);
      return false;
    },
    60_000,
  );
  expect(seen.size).toBeGreaterThan(1);
  const titles = (await shown()).split("\n").slice(1, 2);
  await studio.sheetShows("wide", titles[0]!);
  await studio.sheetShows("narrow", titles[0]!);
  await studio.click("Count the choices");
  await studio.sees("different choices for");
  await studio.click("Write a rule…");
  await studio.click("Condition");
  await studio.chooseOpened("Categories");
  await studio.press(Key.TAB);
  expect(await serious(studio, "a rule over items")).toEqual([]);
  await studio.press(Key.ESCAPE);
}, 150_000);

it("a product is picked by keyboard alone, and another in its place", async () => {
  const path = await studio.newCampaign("Picked", "Template: Calm newsletter");
  await studio.addBlock("Product");
  await studio.sees("Nothing is picked: take one from the items.");
  await studio.sees("No product is picked");
  await studio.click("Pick from the items…");
  await studio.sees("What you take is picked for");
  await studio.fill("Search items", "dibber");
  await studio.until("the one", () =>
    studio.run<boolean>("return document.querySelectorAll('[data-item]').length === 1"),
  );
  await studio.press(Key.TAB, Key.TAB, Key.ENTER);
  await studio.saved();
  await studio.sheetShows("wide", "Ash dibber");
  await studio.sheetShows("narrow", "£12.00");
  await studio.fill("Search items", "twine");
  await studio.until("the other", () =>
    studio.run<boolean>(
      "const all = [...document.querySelectorAll('[data-item]')]; return all.length === 1 && /twine/i.test(all[0].innerText)",
    ),
  );
  await studio.press(Key.TAB, Key.TAB, Key.ENTER);
  await studio.saved();
  await studio.sheetShows("wide", "Jute twine, 100 m");
  await studio.until("the first to be gone", async () => {
    return !(await studio.sheetText("wide"))!.includes("Ash dibber");
  });
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("narrow", "Jute twine, 100 m");
}, 120_000);
