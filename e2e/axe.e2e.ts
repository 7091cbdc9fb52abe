/** Accessibility of the main views: axe finds nothing serious (WCAG 2.2 A and AA). */
import { Key } from "selenium-webdriver";
import { expect, it } from "vitest";
import { serious } from "./axe.ts";
import { FURTHER_VIEWS, mainViews } from "./main-views.ts";
import { Studio } from "./studio.ts";

it("finds nothing serious, light or dark", async () => {
  const studio = await Studio.open();
  try {
    const found: string[] = [];
    for (const { name, path } of [...(await mainViews(studio)), ...FURTHER_VIEWS]) {
      await studio.go(path);
      // What fades in has its own colours only when it stands there.
      await studio.until(`${name} to stand still`, () =>
        studio.run<boolean>(
          "return document.getAnimations().every((one) => one.playState !== 'running' || one.effect.getComputedTiming().endTime === Infinity)",
        ),
      );
      found.push(...(await serious(studio, name)));
      // In the dark nothing differs but colours.
      await studio.prefer("dark");
      found.push(
        ...(await serious(studio, `${name}, dark`, ["color-contrast", "link-in-text-block"])),
      );
      await studio.prefer("light");
    }
    expect(found).toEqual([]);
  } finally {
    await studio.close();
  }
}, 200_000);

it("finds nothing serious in the composer’s panels and bars, nor at 1024 px and at 200 % zoom", async () => {
  const studio = await Studio.open({ width: 1024 });
  try {
    await studio.newCampaign("Panels", "Template: Calm newsletter");
    const found: string[] = [];
    const look = async (name: string) => found.push(...(await serious(studio, name)));
    await studio.clickRow("Button");
    await look("a block");
    await studio.clickRow("Image", Key.SHIFT);
    await look("several blocks");
    await studio.clickRow("Button");
    await studio.click("Another colour: text");
    await look("the colour picker");
    await studio.press(Key.ESCAPE);
    await studio.chord(Key.CONTROL, "f");
    await look("find and replace");
    await studio.click("Close");
    await studio.click("History");
    await studio.sees("What was done");
    await look("the history");
    await (await studio.find("[data-seq]")).click();
    await studio.sees("As it was then.");
    await look("an earlier state");
    await studio.click("Show it as it is now");
    await studio.click("Close the history");
    await studio.clickIn("wide", 'div[data-text="words"]', 2);
    await look("writing");
    await studio.click("Who sees this text");
    await studio.sees("Select some text first");
    await look("who sees these words");
    await studio.press(Key.ESCAPE, Key.ESCAPE);
    await studio.clickRow("Button");
    await studio.click("Others see instead…");
    await studio.click("Only some readers…");
    await studio.sees("It catches");
    await look("a rule");
    await studio.press(Key.ESCAPE);
    await studio.click("Find someone who sees…");
    await look("finding someone");
    await studio.press(Key.ESCAPE);
    await studio.click("Link to");
    await studio.find("[role=option]");
    await look("an open list");
    await studio.press(Key.ESCAPE);
    await studio.clickRow("Image");
    await studio.click("Image: choose");
    await studio.find("[aria-label=Library] li");
    await look("choosing an image");
    await studio.press(Key.ESCAPE);
    await studio.until("the search for a reader", async () => {
      await (await studio.find("[data-reading-as]")).click();
      return true;
    });
    await studio.find("[cmdk-item]");
    await look("a searched list");
    await studio.press(Key.ESCAPE);

    // A window of 1280 × 800 at 200 %: everything can still be reached and done.
    await studio.driver.manage().window().setRect({ width: 640, height: 500 });
    await look("at 200 %");
    await studio.addBlock("Quote");
    await studio.fill("Who said it", "A visitor");
    await studio.driver.sleep(500);
    await studio.saved();
    await studio.sheetShows("wide", "A visitor");
    await studio.click("Proof, not ready", "a");
    await studio.sees("The subject is missing");
    expect(found).toEqual([]);
  } finally {
    await studio.close();
  }
}, 120_000);
