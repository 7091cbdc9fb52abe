/** Pictures that the server makes for blocks, and blocks that follow the email or the clock. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

it("codes and stills are made by the server and shown on the sheet", async () => {
  await studio.newCampaign("Made");
  await studio.addBlock("QR code");
  const loaded = () =>
    studio.inSheet<number>(
      "wide",
      "return page.querySelector('img[src*=\"/made/\"]')?.naturalWidth ?? 0",
    );
  await studio.until("the code to be drawn", async () => (await loaded()) > 100);
  await studio.addBlock("Social links");
  await studio.until(
    "the signs to be drawn",
    async () =>
      (
        await studio.inSheet<number[]>(
          "wide",
          "return [...page.querySelectorAll('img')].map((one) => one.naturalWidth)",
        )
      ).filter((px) => px === 96).length === 4,
  );
});

it("a countdown runs on the sheet, a coupon has a barcode, and contents follow the headings", async () => {
  await studio.newCampaign("Until then");
  await studio.addBlock("Heading");
  await studio.addBlock("Contents");
  await studio.sheetShows("narrow", "In this email\nA new heading");
  await studio.clickIn("wide", "h1", 2);
  await studio.selectAll();
  await studio.press("Winter in the garden", Key.ESCAPE);
  await studio.sheetShows("narrow", "In this email\nWinter in the garden");

  await studio.addBlock("Countdown");
  await studio.sheetShows("wide", "Say what it counts to.");
  await studio.fill("Counts to: day", "24/12/2036");
  await studio.fill("Time", "25:99");
  await studio.sees("A time is written like 18:00.");
  await studio.fill("Time", "18:00");
  await studio.press(Key.TAB);
  const pictures = () =>
    studio.inSheet<{ src: string; alt: string; width: number }[]>(
      "wide",
      "return [...page.querySelectorAll('img')].filter((one) => one.checkVisibility()).map((one) => ({ src: one.src, alt: one.alt, width: one.naturalWidth }))",
    );
  await studio.until("the countdown to be drawn", async () => {
    const [shown] = await pictures();
    return shown?.width === 800 && /^Ends 24 December 2036 at 18:00/.test(shown.alt);
  });
  // The fields follow what is taken back and done again, as they follow another person.
  await studio.fill("Time", "20:30");
  await studio.press(Key.TAB);
  const ends = (time: string) =>
    studio.until(`the end at ${time}`, async () =>
      (await pictures())[0]?.alt.startsWith(`Ends 24 December 2036 at ${time}`),
    );
  const written = async () => [
    await (await studio.named("Counts to: day")).getAttribute("value"),
    await (await studio.named("Time")).getAttribute("value"),
  ];
  await ends("20:30");
  await studio.click("Undo");
  await ends("18:00");
  expect(await written()).toEqual(["24/12/2036", "18:00"]);
  await studio.click("Redo");
  await ends("20:30");
  expect(await written()).toEqual(["24/12/2036", "20:30"]);
  const [running] = await pictures();
  const kept = await studio.driver.executeAsyncScript<string>(
    "fetch(arguments[0]).then((answer) => arguments[1](answer.headers.get('cache-control')))",
    running!.src,
  );
  expect(kept).toBe("no-store");

  await studio.addBlock("Coupon");
  await studio.choose("Barcode", "EAN-13");
  await studio.sees("A till cannot read this barcode");
  await studio.choose("Barcode", "Code 128");
  await studio.until("the barcode to be drawn", async () => {
    const shown = (await pictures()).at(-1);
    return shown?.alt === "Barcode: GARDEN10" && shown.width === 560;
  });

  // What is in a part stands under its switch, and only while that is on.
  const settings = async (...labels: string[]) => {
    const page = await studio.pageText();
    return labels.map((label) => page.split("\n").includes(label));
  };
  expect(await settings("The button links to", "Last day", "Terms")).toEqual([false, false, true]);
  await studio.click("With a button");
  await studio.sees("The button “Use it now” leads nowhere");
  expect(await settings("The button links to", "Last day")).toEqual([true, false]);
  await studio.click("With the last day");
  await studio.fill("Last day", "2/11/2026");
  await studio.sheetShows("wide", "Until 2 November 2026");
  await studio.saved();
}, 120_000);

it("contents follow the headings that another person writes", async () => {
  const path = await studio.newCampaign("Contents for two");
  await studio.addBlock("Heading");
  await studio.addBlock("Contents");
  await studio.saved();
  const other = await Studio.open();
  try {
    await other.go(path);
    await other.composing();
    await other.clickIn("wide", "h1", 2);
    await other.selectAll();
    await other.press("What they found by the brook");
    await studio.sheetShows("narrow", "In this email\nWhat they found by the brook");
    await other.press(Key.ESCAPE);
    await other.addBlock("Heading");
    await studio.sheetShows("wide", "What they found by the brook\nA new heading");
  } finally {
    await other.close();
  }
}, 120_000);

it("pictures go into a grid and a still, cut and marked by the server", async () => {
  await studio.newCampaign("Pictures");
  await studio.addBlock("Image grid");
  const first = await studio.find("[data-item] button:not([aria-label])");
  await first.click();
  await studio.takePicture();
  const sizes = () =>
    studio.inSheet<number[][]>(
      "wide",
      `return [...page.querySelectorAll('img[src*="/made/"]')].filter((one) => one.naturalWidth > 0).map((one) => [one.width, one.height, one.naturalWidth, one.naturalHeight])`,
    );
  // 4 to 3, at twice the size it shows at.
  await studio.until("the cut picture", async () => {
    const [one] = await sizes();
    return one && Math.abs(one[3]! / one[2]! - 0.75) < 0.02 && one[2]! === 2 * one[0]!;
  });
  await studio.addBlock("Video");
  await studio.takePicture();
  await studio.until("the still", async () => (await sizes()).length === 2);
});
