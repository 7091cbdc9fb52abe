/** From nothing to a personalised newsletter that arrived, through every room. */

import { writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { By, Key } from "selenium-webdriver";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { type Language, phrases } from "#core/phrases/index.ts";
import { readersCounted, sendNow } from "./sending.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const FOOTER = '[data-node]:has(> td [data-text="why"])';

it("makes, proofs, sends and reads a newsletter", async () => {
  const { driver } = studio;
  const campaign = await studio.newCampaign("A first letter");

  // Compose: drag four blocks onto a sheet.
  expect(await studio.dragFromTray("heading", "wide", FOOTER, 0.02)).toContain("Footer");
  expect(await studio.runningOrder()).toContain("A new heading");
  await studio.dragFromTray("text", "wide", "h1", 0.95);
  await studio.dragFromTray("image", "narrow", 'div[data-text="words"]', 0.95);
  await studio.dragFromTray("button", "wide", 'div[data-text="words"]', 0.95);
  expect(await studio.runningOrder()).toEqual(
    expect.arrayContaining(["A new heading", "Text", "Image", "Button", "Footer"]),
  );

  // Write in place, with a merge tag and its fallback.
  await studio.clickIn("wide", "h1", 2);
  await studio.selectAll();
  await studio.press("Good morning");
  await studio.press(Key.ESCAPE);
  await studio.sheetShows("narrow", "Good morning");
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.selectAll();
  await studio.press("Dear ");
  await studio.press("{");
  await studio.find("[cmdk-input]");
  await studio.press("first", Key.ENTER);
  await studio.fill("Fallback", "gardener");
  await studio.click("Put it in");
  await studio.press(", come and see.");
  await studio.press(Key.ESCAPE);
  await studio.saved();

  // Seen through two readers' eyes.
  await studio.sheetShows("wide", "Dear Amélie, come and see.");
  await studio.sheetShows("narrow", "Dear Amélie, come and see.");
  await studio.click("Next contact");
  await studio.until("another reader", async () => {
    const text = await studio.sheetText("wide");
    return text?.includes("come and see") && !text.includes("Amélie");
  });
  const second = await (await studio.find("[data-reading-as]")).getText();
  await studio.sheetShows("narrow", `Dear ${second.split(" ")[0]}, come and see.`);

  // A picture from the computer.
  const file = join(tmpdir(), "septima-test-picture.png");
  writeFileSync(
    file,
    await sharp({ create: { width: 1800, height: 900, channels: 3, background: "#2f6b4a" } })
      .png()
      .toBuffer(),
  );
  await (await studio.find('[data-order]:not([data-order="envelope"])')).click();
  await studio.clickRow("Image");
  await studio.click("Image: choose");
  await (await studio.find("input[type=file]")).sendKeys(file);
  // Twice as wide as its place, in steps, and no wider.
  await studio.until("the picture on the sheet", () =>
    studio.run(
      "return document.querySelector('iframe').contentDocument.querySelector('[role=article] img')?.naturalWidth === 1120",
    ),
  );

  // The button leads somewhere.
  await studio.clickRow("Button");
  await (await studio.named("Address")).click();
  await studio.press("javascript:alert(1)", Key.ENTER);
  await studio.sees("A web address begins with https://");
  await studio.selectAll();
  await studio.press(`${studio.base}/mark.svg`, Key.ENTER);
  await studio.saved();

  // The envelope.
  await (await studio.find('[data-order="envelope"]')).click();
  await (await studio.named("Subject")).click();
  await studio.press("A letter for you");
  await studio.saved();

  // Readers.
  await studio.click("Readers, not ready", "a");
  await studio.sees("Who gets it");
  const volunteers = await studio.named("Volunteers", "fieldset").catch(() => null);
  const row =
    volunteers ??
    (await driver.findElement(By.xpath("//fieldset[.//legend[normalize-space(.)='Volunteers']]")));
  await row.findElement(By.css("input[value=include]")).click();
  const readersBefore = await readersCounted(studio, (n) => n > 50);

  // Proof: a test, with an address that is wrong first.
  await studio.go(`${campaign}/proof`);
  await studio.fill("Send a test to", "nobody@");
  await studio.click("Send the test");
  await studio.sees("“nobody@” is not a mail address.");
  await studio.fill("Send a test to", "studio@larkmoor.example, second@larkmoor.example");
  await studio.click("Send the test");
  await studio.sees("2 tests are out");
  await studio.go("/outbox?search=studio@larkmoor.example");
  await studio.click("[Test] A letter for you", "a");
  await driver.switchTo().frame(await studio.find("iframe"));
  await studio.until("the test in the outbox", async () =>
    (await studio.pageText()).includes("Dear Amélie, come and see."),
  );
  await driver.switchTo().defaultContent();

  // Schedule now, and watch it finish.
  await sendNow(studio, campaign);
  await studio.sees("It has been sent.", 60_000);

  // One reader opens the message and follows its link; whoever does so in the moment it arrives is a machine.
  await driver.sleep(LIMITS.readFromMs);
  await studio.go("/outbox?search=A letter for you");
  await studio.click("A letter for you", "a");
  await studio.sees("Plain text");
  const to = /to (\S+@\S+)/.exec(await studio.pageText())![1]!;
  const window = await driver.getWindowHandle();
  await driver.switchTo().frame(await studio.find("iframe"));
  await studio.until("the button in the message", async () => {
    await driver.findElement(By.partialLinkText("Read more")).click();
    return true;
  });
  await driver.switchTo().defaultContent();
  await studio.until(
    "the link in a tab of its own",
    async () => (await driver.getAllWindowHandles()).length === 2,
  );
  const [tab] = (await driver.getAllWindowHandles()).filter((handle) => handle !== window);
  await driver.switchTo().window(tab!);
  await studio.until("the address of the link", async () =>
    (await driver.getCurrentUrl()).endsWith("/mark.svg"),
  );
  await driver.close();
  await driver.switchTo().window(window);
  await studio.go(`${campaign}/results`);
  await studio.until("the click in the results", async () =>
    /clicked\s+1 person/.test(await studio.pageText()),
  );

  // That reader unsubscribes, and is held back from then on.
  await studio.go(`/outbox?search=${encodeURIComponent(to)}`);
  await studio.click("A letter for you", "a");
  await driver.switchTo().frame(await studio.find("iframe"));
  await studio.until("the unsubscribe link", async () => {
    await driver.findElement(By.linkText("Unsubscribe")).click();
    return true;
  });
  await driver.switchTo().defaultContent();
  await studio.until(
    "the page for leaving",
    async () => (await driver.getAllWindowHandles()).length === 2,
  );
  const [leaving] = (await driver.getAllWindowHandles()).filter((handle) => handle !== window);
  await driver.switchTo().window(leaving!);
  // In the reader's own language.
  await studio.sees(to);
  const say = phrases(
    (await studio.run<string>("return document.querySelector('main').lang")) as Language,
  );
  await studio.sees(say.unsubscribeAsk);
  await studio.click(say.unsubscribe, "button");
  await studio.sees(say.unsubscribed);
  await driver.close();
  await driver.switchTo().window(window);
  await studio.go(`${campaign}/readers`);
  const after = Number(await (await studio.find("[data-readers]")).getText());
  const unsubscribed = await (await studio.find("[data-unsubscribed]")).getText();
  expect(after).toBeLessThan(readersBefore);
  expect(Number(unsubscribed)).toBeGreaterThan(0);
}, 240_000);
