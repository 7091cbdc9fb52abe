/** Style: spreading, going back, the theme's; sums in number fields; find and replace; the writing helper. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { walk } from "#core/document/index.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const buttons = async (path: string) =>
  [...walk((await studio.storedDocument(path)).root)].filter((node) => node.type === "button");
const fills = async (path: string) => (await buttons(path)).map((node) => node.props.fill);
const setNumber = async (name: string, value: string) => {
  await studio.fill(name, value);
  await studio.press(Key.TAB);
  await studio.saved();
};

it("a control under the hand stays where it is while the checks say more and less", async () => {
  await studio.newCampaign("Still", "Template: Calm newsletter");
  await studio.clickRow("Button");
  const field = "Button, as # and six digits";
  const place = async () => (await (await studio.named(field)).getRect()).y;
  const found = () =>
    studio.run<number>(
      "return document.querySelectorAll('[aria-label=\"Found by the checks\"] li').length",
    );
  /** Waits until so many things are found, and looks whether the field has moved for it. */
  const stays = async (findings: number) => {
    const before = await place();
    await studio.until(`${findings} findings`, async () => (await found()) === findings);
    expect(await place()).toBeCloseTo(before, 0);
  };
  await studio.until("the first finding", async () => (await found()) === 1);
  await studio.fill(field, "#6a2747");
  await studio.press(Key.TAB);
  await stays(2);
  await studio.chord(Key.CONTROL, "z");
  await stays(1);
  await studio.chord(Key.CONTROL, Key.SHIFT, "z");
  await stays(2);
  // The hand leaves: what came in above is shown, and what is under it makes room.
  const under = await place();
  const page = await studio.find("nav[aria-label=Rooms]");
  await studio.driver.actions().move({ origin: page }).perform();
  await studio.until("room for what was found", async () => (await place()) > under + 40);
}, 120_000);

it("one button’s colour is spread to all, taken back, and made the theme’s", async () => {
  const path = await studio.newCampaign("Colours", "Template: Calm newsletter");
  await studio.clickRow("Button");
  await studio.chord(Key.CONTROL, "d");
  await studio.chord(Key.CONTROL, "d");
  await studio.saved();
  await setNumber("Button, as # and six digits", "#6a2747");
  expect(await fills(path)).toEqual(["button", "button", "#6a2747"]);
  await studio.sees("Changed here");
  await studio.click("Apply to similar, or make it the theme’s");
  await studio.click("Apply to 2 others");
  await studio.saved();
  expect(await fills(path)).toEqual(["#6a2747", "#6a2747", "#6a2747"]);
  // The colour used last stands among the swatches.
  await studio.find('[aria-label="#6a2747, used lately"]');
  await studio.click("Go back");
  await studio.saved();
  expect(await fills(path)).toEqual(["#6a2747", "#6a2747", "button"]);
  await studio.click("Undo");
  await studio.until("the colour to be back", async () => (await fills(path))[2] === "#6a2747");
  await studio.click("Apply to similar, or make it the theme’s");
  await studio.click("Make it the theme’s");
  await studio.saved();
  await studio.addBlock("Button");
  expect(await fills(path)).toEqual(Array(4).fill("#6a2747"));
}, 90_000);

it("number fields take sums and arrows, and the email says how new blocks come", async () => {
  const path = await studio.newCampaign("Numbers", "Template: Calm newsletter");
  await studio.clickRow("Button");
  await setNumber("Size, px", "12 + 2*3");
  expect((await buttons(path))[0]!.props.size).toBe(18);
  const field = await studio.named("Size, px");
  await field.click();
  await studio.press(Key.ARROW_UP);
  await studio.saved();
  expect((await buttons(path))[0]!.props.size).toBe(19);
  // Dragged by its label.
  const label = await studio.run<{ x: number; y: number }>(
    "const r = [...document.querySelectorAll('label')].find((l) => l.innerText === 'Size, px').getBoundingClientRect(); return { x: Math.round(r.x + 10), y: Math.round(r.y + 6) }",
  );
  await studio.driver
    .actions()
    .move({ ...label, duration: 0 })
    .press()
    .move({ x: label.x + 12, y: label.y, duration: 80 })
    .release()
    .perform();
  await studio.saved();
  expect((await buttons(path))[0]!.props.size).toBe(23);
  await studio.click("Email", "button");
  await setNumber("Above, px", "40");
  await studio.click("For new blocks");
  await studio.saved();
  await studio.addBlock("Button");
  const tops = (await buttons(path)).map(
    (node) => (node.props.box as { padding: { top: number } }).padding.top,
  );
  expect(tops.toSorted((a, b) => a - b)).toEqual([12, 40]);
}, 90_000);

it("words are found and replaced across the email as one step", async () => {
  await studio.newCampaign("Finding", "Template: Calm newsletter");
  await studio.clickRow("What this email is about");
  await studio.chord(Key.CONTROL, "f");
  await studio.fill("Find", "thing");
  await studio.sees("1 of 2");
  await studio.click("Whole words only");
  await studio.press(Key.TAB);
  await studio.fill("Replace with", "garden");
  await studio.click("Replace all");
  await studio.saved();
  await studio.sheetShows("wide", "One garden");
  await studio.sheetShows("narrow", "Another garden");
  await studio.sees("Not found");
  await studio.click("Undo");
  await studio.sheetShows("narrow", "Another thing");
  await studio.sheetShows("wide", "One thing");
}, 60_000);

it("the helper proposes plainer words, and each can be taken and taken back", async () => {
  await studio.newCampaign("Plainer", "Template: Calm newsletter");
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.selectAll();
  await studio.press(
    "In order to visit the garden, book a place, for we have a large number of guests.",
  );
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.click("Look at the words");
  await studio.sees("reading ease");
  await studio.click("Apply");
  await studio.saved();
  await studio.sheetShows("narrow", "To visit the garden");
  await studio.click("Apply");
  await studio.saved();
  await studio.sheetShows("narrow", "we have many guests");
  await studio.click("Undo");
  await studio.sheetShows("narrow", "a large number of guests");
}, 60_000);
