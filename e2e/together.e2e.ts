/** History and company: earlier states, two people at once, and no connection. */
import { Key } from "selenium-webdriver";
import type { Driver as ChromiumDriver } from "selenium-webdriver/chrome.js";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
let other: Studio;
beforeAll(async () => {
  studio = await Studio.open();
  other = await Studio.open();
});
afterAll(async () => {
  await studio?.close();
  await other?.close();
});

const TEXT = 'div[data-text="words"]';
const write = async (who: Studio, css: string, words: string) => {
  await who.clickIn("wide", css, 2);
  await who.press(Key.END);
  await who.press(words, Key.ESCAPE);
  await who.saved();
};

it("keeps a moment by name, shows it on the sheets, and gives one block of it back", async () => {
  await studio.newCampaign("Moments", "Template: Calm newsletter");
  await write(studio, "h1", ", as it was");
  await studio.click("History");
  await studio.fill("Keep this moment as", "Before the meeting");
  await studio.click("Keep");
  await studio.sees("Before the meeting");
  await studio.clickRow("What this email is about, as");
  await studio.press(Key.DELETE);
  await studio.clickRow("Button");
  await studio.press(Key.DELETE);
  await studio.saved();
  await studio.sees("Took out the button");
  await (await studio.find("[data-seq]")).click();
  await studio.sees("As it was then.");
  await studio.sheetShows("narrow", "as it was");
  // Nothing can be changed meanwhile.
  await studio.clickIn("wide", "h1", 2);
  await studio.press("x");
  expect(await studio.sheetText("wide")).not.toContain("wasx");
  await studio.clickIn("wide", "h1");
  await studio.click("Bring back “What this email is about, as”");
  await studio.click("Show it as it is now");
  await studio.sheetShows("narrow", "as it was");
  expect(await studio.sheetText("narrow")).not.toContain("Read more");
  // The whole state, and back again by undo.
  await (await studio.find("[data-seq]")).click();
  await studio.sees("As it was then.");
  await studio.click("Go back to this");
  await studio.saved();
  await studio.sheetShows("narrow", "Read more");
  await studio.click("Undo");
  await studio.until("the button to be gone again", async () => {
    return !(await studio.sheetText("narrow"))?.includes("Read more");
  });
}, 120_000);

it("two people see each other, and what both write in one text is joined", async () => {
  const path = await studio.newCampaign("Two people", "Template: Calm newsletter");
  await other.go(path);
  await other.composing();
  await other.clickIn("wide", TEXT);
  await studio.find("[data-other]");
  await studio.find('[aria-label="Also here"]');

  // Different blocks: each arrives at the other’s within a second.
  await write(studio, "h1", " today");
  const begin = Date.now();
  await other.sheetShows("narrow", "about today");
  expect(Date.now() - begin).toBeLessThan(1_000);

  // The same text, in different places, at the same time: the second cannot send for a while.
  await other.hold();
  await other.clickIn("wide", "h1", 2);
  await other.press(Key.HOME);
  await other.press("Now: ");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.press(" and later");
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await other.press(Key.ESCAPE);
  await other.release();
  for (const who of [studio, other]) {
    await who.sheetShows("narrow", "Now: What this email is about today and later");
  }
}, 120_000);

it("work goes on without a connection, and a closed tab loses nothing of it", async () => {
  const path = await studio.newCampaign("Offline", "Template: Calm newsletter");
  // The page has all it needs with the first move of a hand, or after a few seconds: then the line is cut.
  await studio.clickIn("wide", "h1", 2);
  await studio.until("a text to take the keys", () =>
    studio.run(
      "return document.querySelector('iframe').contentDocument.activeElement?.classList.contains('ProseMirror')",
    ),
  );
  await studio.press(Key.ESCAPE);
  await studio.line("cut");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END, " without a line", Key.ESCAPE);
  await studio.sees("No connection; will be saved");
  await studio.clickRow("Button");
  await studio.press(Key.DELETE);
  await studio.sheetShows("narrow", "without a line");
  // Back again: everything is sent.
  await studio.line("well");
  await studio.saved();
  await other.go(path);
  await other.composing();
  await other.sheetShows("narrow", "without a line");
  expect(await other.sheetText("narrow")).not.toContain("Read more");

  // Away once more, and the tab is closed before the line is back.
  await studio.line("cut");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END, ", never lost", Key.ESCAPE);
  await studio.sees("No connection; will be saved");
  await studio.run(
    "window.addEventListener('pagehide', (e) => e.stopImmediatePropagation(), true)",
  );
  await studio.driver.get("about:blank").catch(() => {});
  await studio.line("well");
  // Meanwhile somebody else has changed another block.
  await write(other, TEXT, " And this.");
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("wide", "without a line, never lost");
  await studio.saved();
  await other.sheetShows("narrow", "without a line, never lost");
  await studio.sheetShows("narrow", "And this.");
}, 120_000);

/** Which bands of a sheet are not as high as they would be if all of them were laid out. */
const wrongHeights = (who: Studio, sheet: "wide" | "narrow") =>
  who.run<string[]>(
    `const page = document.querySelector("[data-pane='" + arguments[0] + "'] iframe").contentDocument;
     const bands = [...page.querySelectorAll('[role=article] > table')];
     const heights = () => bands.map((band) => Math.round(band.getBoundingClientRect().height));
     const before = heights();
     const style = page.createElement('style');
     style.textContent = '[role=article] > table { content-visibility: visible !important }';
     page.head.append(style);
     const after = heights();
     style.remove();
     return before.flatMap((height, i) => Math.abs(height - after[i]) > 1 ? [i + ': ' + height + ' for ' + after[i]] : []);`,
    sheet,
  );
const resting = (who: Studio) =>
  who.run<number>(
    `const page = document.querySelector("[data-pane=wide] iframe").contentDocument;
     return [...page.querySelectorAll('[role=article] > table')].filter((band) => page.defaultView.getComputedStyle(band).contentVisibility === 'auto').length`,
  );

it("bands out of sight rest while one writes, and are as high as they are when somebody changes them", async () => {
  const path = await studio.newCampaign("Long and shared", "Template: Calm newsletter");
  await other.go(path);
  await other.composing();
  await studio.clickIn("wide", "h1", 2);
  await studio.press(" written");
  expect(await resting(studio)).toBeGreaterThan(2);
  for (const sheet of ["wide", "narrow"] as const) {
    expect(await wrongHeights(studio, sheet)).toEqual([]);
  }
  // At the far end, where the writer sees nothing of it.
  await other.clickRow("Footer");
  await other.addBlock("Heading");
  await other.saved();
  await studio.sheetShows("narrow", "A new heading");
  for (const sheet of ["wide", "narrow"] as const) {
    expect(await wrongHeights(studio, sheet)).toEqual([]);
  }
  await studio.press(" on", Key.ESCAPE);
  await studio.saved();
  expect(await resting(studio)).toBe(0);
  await other.sheetShows("narrow", "written on");
});

it("shows the email before its script is there, and takes it over with what others wrote meanwhile", async () => {
  const path = await studio.newCampaign("Seen at once", "Template: Calm newsletter");
  await other.go(path);
  await other.composing();
  const tell = (command: string, what = {}) =>
    (studio.driver as ChromiumDriver).sendDevToolsCommand(`Network.${command}`, what);
  await tell("enable");
  await tell("setBlockedURLs", { urls: ["*.js"] });
  await studio.driver.get(`${studio.base}${path}`);
  for (const sheet of ["wide", "narrow"] as const) {
    await studio.sheetShows(sheet, "What this email is about");
    expect(await studio.inSheet(sheet, "return page.body.inert")).toBe(true);
  }

  // The script takes seconds; another person writes in the time.
  await tell("setBlockedURLs", { urls: [] });
  await tell("clearBrowserCache");
  await studio.line("slow");
  await studio.run("location.reload()");
  await write(other, "h1", ", by the brook");
  await studio.line("well");
  await studio.composing();
  for (const sheet of ["wide", "narrow"] as const) {
    await studio.sheetShows(sheet, "What this email is about, by the brook");
    const served = "return page.documentElement.hasAttribute('data-served')";
    expect(await studio.inSheet(sheet, served)).toBe(true);
  }
  await write(studio, "h1", " and further");
  await other.sheetShows("narrow", "by the brook and further");
}, 120_000);
