/** History and company: earlier states, two people at once, and no connection. */
import { Key } from "selenium-webdriver";
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
  await who.driver.sleep(50);
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
  // A moment after it got the focus the editor sets its selection once more; a busy machine takes longer.
  await other.driver.sleep(500);
  await other.press(Key.HOME);
  // A key every few hundredths of a second is as fast as hands are.
  await other.driver.sleep(50);
  await other.press("Now: ");
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END);
  await studio.driver.sleep(50);
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
  const conditions = (offline: boolean) =>
    (
      studio.driver as unknown as { setNetworkConditions(c: object): Promise<void> }
    ).setNetworkConditions({
      offline,
      latency: 0,
      download_throughput: offline ? 0 : -1,
      upload_throughput: offline ? 0 : -1,
    });
  await conditions(true);
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END, " without a line", Key.ESCAPE);
  await studio.sees("No connection; will be saved");
  await studio.clickRow("Button");
  await studio.press(Key.DELETE);
  await studio.sheetShows("narrow", "without a line");
  // Back again: everything is sent.
  await conditions(false);
  await studio.saved();
  await other.go(path);
  await other.composing();
  await other.sheetShows("narrow", "without a line");
  expect(await other.sheetText("narrow")).not.toContain("Read more");

  // Away once more, and the tab is closed before the line is back.
  await conditions(true);
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.END, ", never lost", Key.ESCAPE);
  await studio.sees("No connection; will be saved");
  await studio.run(
    "window.addEventListener('pagehide', (e) => e.stopImmediatePropagation(), true)",
  );
  await studio.driver.get("about:blank").catch(() => {});
  await conditions(false);
  // Meanwhile somebody else has changed another block.
  await write(other, TEXT, " And this.");
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("wide", "without a line, never lost");
  await studio.saved();
  await other.sheetShows("narrow", "without a line, never lost");
  await studio.sheetShows("narrow", "And this.");
}, 120_000);
