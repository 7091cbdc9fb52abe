/** Live content as a designer meets it: a feed from a page's address, its items on the shelf, an article in an email. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

it("a feed is added from a page's address, and gains items as time goes on", async () => {
  await studio.go("/library/feeds");
  await studio.fill("A new feed", "http://169.254.169.254/latest/meta-data");
  await studio.press(Key.ENTER);
  await studio.sees("This address leads into a private network.");
  await studio.fill("A new feed", "walks.larkmoor.example");
  await studio.press(Key.ENTER);
  await studio.sees("items, the newest first");
  await studio.until("the images to have come", () =>
    studio.run<boolean>(
      "return [...document.querySelectorAll('main li img')].filter((one) => one.naturalWidth > 0).length > 3",
    ),
  );
  expect(await serious(studio, "a feed")).toEqual([]);
  const items = async () =>
    Number(/(\d+) items, the newest first/.exec(await studio.pageText())![1]);
  const before = await items();
  // It brings something new every two days.
  await studio.go("/library/feeds");
  for (const told of ["1 day ahead", "2 days ahead"]) {
    await studio.click("Move it on by a day");
    await studio.sees(told);
  }
  await studio.click("Walks and workshops", "a");
  await studio.until("an item more", async () => (await items()) > before);
  await (await studio.find("input[name=search]")).sendKeys("dawn");
  await studio.until("what is searched", () =>
    studio.run<boolean>(
      "const all = [...document.querySelectorAll('main li h3')]; return all.length > 0 && all.every((one) => /dawn/i.test(one.textContent))",
    ),
  );
}, 120_000);

it("an article is dragged from the shelf, another is put in by keyboard alone", async () => {
  const path = await studio.newCampaign("With articles", "Template: Calm newsletter");
  await studio.click("Items…");
  // How many it has by now depends on the time of its site.
  await studio.until("the notebook's items", async () => {
    const tabs = await studio.driver.findElements(
      By.xpath(
        "//button[@aria-pressed][starts-with(normalize-space(.), 'The gardeners’ notebook')]",
      ),
    );
    await tabs[0]!.click();
    return (await tabs[0]!.getAttribute("aria-pressed")) === "true";
  });
  await studio.fill("Search items", "frost");
  await studio.until("the item that is searched", () =>
    studio.run<boolean>(
      "const all = [...document.querySelectorAll('[data-item]')]; return all.length > 0 && all.every((one) => /frost/i.test(one.textContent))",
    ),
  );
  const card = await studio.find("[data-item]");
  const point = (await studio.pointIn("wide", "h1", 0.9))!;
  await studio.drag(card, point);
  await studio.saved();
  await studio.sheetShows("wide", "What frost does for parsnips");
  await studio.sheetShows("narrow", "A few cold nights turn their starch to sugar.");
  await studio.sees("in this email");
  await studio.until("its image", () =>
    studio.inSheet<boolean>(
      "wide",
      "return [...page.querySelectorAll('img')].some((one) => one.alt === 'What frost does for parsnips' && one.naturalWidth > 0)",
    ),
  );
  // The keys go from the search to an item, along them, and put one in.
  await studio.fill("Search items", "the");
  await studio.until("several items", () =>
    studio.run<boolean>("return document.querySelectorAll('[data-item]').length > 2"),
  );
  await studio.press(Key.TAB, Key.TAB, Key.ARROW_RIGHT);
  const title = await studio.run<string>(
    "const all = [...document.querySelectorAll('[data-item]')]; return all.indexOf(document.activeElement) === 1 ? document.activeElement.querySelector('span span').textContent : 'the focus is elsewhere'",
  );
  await studio.press(Key.ENTER);
  await studio.saved();
  await studio.sheetShows("wide", title);
  expect(await serious(studio, "the shelf")).toEqual([]);
  // It is let go of, and stays as it is.
  await studio.click("Unlink");
  await studio.saved();
  await studio.sees("It keeps to no item of a feed.");
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("narrow", title);
}, 120_000);
