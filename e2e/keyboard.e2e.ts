/** Composing with the keyboard alone. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const order = async (...expected: string[]) =>
  studio.until(`the running order ${expected.join(", ")}`, async () => {
    const rows = await studio.runningOrder();
    return JSON.stringify(rows) === JSON.stringify(expected);
  });

it("adds, moves, duplicates, writes, deletes and takes back", async () => {
  await studio.newCampaign("By keyboard");
  // Into the running order by Tab, as anyone would.
  await studio.until("the running order to have the focus", async () => {
    await studio.press(Key.TAB);
    return studio.run("return document.activeElement.dataset.order === 'envelope'");
  });
  await order("Footer", "Footer");

  // Add: the list of blocks, a few letters, Enter, and Enter again where it is offered first.
  await studio.chord(Key.CONTROL, Key.ENTER);
  await studio.find("[cmdk-input]");
  await studio.press("head", Key.ENTER);
  await studio.find("[data-landing]");
  await studio.press(Key.ENTER);
  await order("Band", "A new heading", "Footer", "Footer");
  await studio.chord(Key.CONTROL, Key.ENTER);
  await studio.find("[cmdk-input]");
  await studio.press("text", Key.ENTER);
  await studio.find("[data-landing]");
  await studio.press(Key.ENTER);
  await order("Band", "A new heading", "Text", "Footer", "Footer");

  // From the tray with Enter.
  await (await studio.find('[data-tray="button"]')).sendKeys(Key.ENTER);
  await order("Band", "A new heading", "Text", "Button", "Footer", "Footer");

  // Move up with Alt and the arrow, duplicate, delete.
  await studio.chord(Key.ALT, Key.ARROW_UP);
  await order("Band", "A new heading", "Button", "Text", "Footer", "Footer");
  await studio.chord(Key.CONTROL, "d");
  await order("Band", "A new heading", "Button", "Button", "Text", "Footer", "Footer");
  await studio.press(Key.DELETE);
  await order("Band", "A new heading", "Button", "Text", "Footer", "Footer");

  // Arrows select; Enter writes; Escape ends.
  await studio.run("document.querySelector('[data-order][aria-selected=true]').focus()");
  await studio.press(Key.ARROW_UP, Key.ARROW_UP);
  await studio.until("the heading to be selected", () =>
    studio.run(
      "return document.querySelector('[data-order][aria-selected=true]').innerText.includes('A new heading')",
    ),
  );
  for (let i = 0; i < 3; i++) {
    const selected = await studio.run<string>(
      "return document.querySelector('[data-order][aria-selected=true]').innerText.trim()",
    );
    if (selected === "A new heading") break;
    await studio.press(Key.ARROW_UP);
  }
  await studio.press(Key.ENTER);
  await studio.until("the text to take the keys", () =>
    studio.run(
      "return document.querySelector('iframe').contentDocument.activeElement?.classList.contains('ProseMirror')",
    ),
  );
  await studio.selectAll();
  await studio.press("Written by hand", Key.ESCAPE);
  await studio.sheetShows("narrow", "Written by hand");
  await studio.saved();

  // Take back everything, one step after another, and do one again.
  const undo = async () => {
    await studio.saved();
    await studio.click("Undo");
  };
  await undo();
  await studio.sheetShows("narrow", "A new heading");
  await undo();
  await order("Band", "A new heading", "Button", "Button", "Text", "Footer", "Footer");
  await undo();
  await order("Band", "A new heading", "Button", "Text", "Footer", "Footer");
  await studio.chord(Key.CONTROL, Key.SHIFT, "z");
  await order("Band", "A new heading", "Button", "Button", "Text", "Footer", "Footer");
  expect(await studio.sheetText("wide")).toContain("A new heading");
}, 120_000);
