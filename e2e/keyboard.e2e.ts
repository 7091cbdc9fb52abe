/** Composing with the keyboard alone. */
import { Key } from "selenium-webdriver";
import type { Driver as ChromiumDriver } from "selenium-webdriver/chrome.js";
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
  // The row that has the focus goes, and the focus stays in the list.
  await studio.chord(Key.CONTROL, "d");
  await order("Band", "A new heading", "Button", "Text", "Text", "Footer", "Footer");
  await studio.press(Key.DELETE);
  await order("Band", "A new heading", "Button", "Text", "Footer", "Footer");
  await studio.until("the focus to be in the running order", () =>
    studio.run("return document.activeElement.matches('[role=tree] [data-order]')"),
  );
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
    if (selected.startsWith("A new heading")) break;
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
  await order("Band", "A new heading", "Button", "Text", "Text", "Footer", "Footer");
  await undo();
  await order("Band", "A new heading", "Button", "Text", "Footer", "Footer");
  await undo();
  await order("Band", "A new heading", "Button", "Button", "Text", "Footer", "Footer");
  await undo();
  await order("Band", "A new heading", "Button", "Text", "Footer", "Footer");
  await studio.chord(Key.CONTROL, Key.SHIFT, "z");
  await order("Band", "A new heading", "Button", "Button", "Text", "Footer", "Footer");
  expect(await studio.sheetText("wide")).toContain("A new heading");
}, 120_000);

it("makes a whole email, and hears where everything goes", async () => {
  const path = await studio.newCampaign("An email by keys");
  const said = () =>
    studio.run<string>("return document.querySelector('[data-announcer]').textContent");
  const focused = (words: string, test: string) =>
    studio.until(words, async () => {
      await studio.press(Key.TAB);
      return studio.run(`const a = document.activeElement; return ${test}`);
    });
  await focused("the envelope", "a.dataset.order === 'envelope'");

  /** From the list of blocks, to the last spot before the footer. */
  const heard: string[] = [];
  const add = async (name: string, words?: string) => {
    await studio.chord(Key.CONTROL, Key.ENTER);
    await studio.find("[cmdk-input]");
    await studio.press(name, Key.ENTER);
    await studio.find("[data-landing]");
    heard.push(await said());
    await studio.press(Key.ENTER);
    await studio.saved();
    if (!words) return;
    await studio.press(Key.ENTER);
    await studio.until("the text to take the keys", () =>
      studio.run(
        "return document.querySelector('iframe').contentDocument.activeElement?.classList.contains('ProseMirror')",
      ),
    );
    await studio.selectAll();
    await studio.press(words, Key.ESCAPE);
    await studio.saved();
    // Back into the running order, where the keys were.
    await studio.run("document.querySelector('[data-order][aria-selected=true]').focus()");
  };
  await add("Heading", "Seeds are here");
  await add("Text", "Forty kinds, all from our own ground.");
  await add("Button", "See the list");
  expect(heard.map((one) => one.replace(/, \d+ of \d+$/, ""))).toEqual([
    "above “Footer”, full width",
    "below “Seeds are here”",
    "below the text",
  ]);
  // Two of them are chosen together and put into a card.
  await studio.chord(Key.SHIFT, Key.ARROW_UP);
  await studio.sees("2 blocks");
  await studio.chord(Key.CONTROL, "g");
  await studio.saved();
  await order("Band", "Seeds are here", "Card", "Text", "Button", "Footer", "Footer");
  // The subject, by Tab into the settings.
  await studio.run("document.querySelector('[data-order][tabindex=\"0\"]').focus()");
  await studio.press(Key.HOME);
  for (let i = 0; i < 4; i++) await studio.press(Key.ARROW_UP);
  await focused("the subject", "a.getAttribute('aria-label') === 'Subject'");
  await studio.press("The new seed list");
  await studio.driver.sleep(500);
  await studio.saved();
  const { root } = await studio.storedDocument(path);
  expect(JSON.stringify(root.props.envelope)).toContain("The new seed list");
  expect(await studio.sheetText("narrow")).toMatch(
    /Seeds are here[\s\S]*Forty kinds[\s\S]*See the list[\s\S]*Unsubscribe/,
  );
}, 120_000);

it("writes lists, links and marks without the mouse", async () => {
  await studio.go(await studio.newCampaign("By keys alone"));
  await studio.composing();
  await studio.chord(Key.CONTROL, Key.ENTER);
  await studio.find("[cmdk-input]");
  await studio.press("text", Key.ENTER);
  await studio.find("[data-landing]");
  await studio.press(Key.ENTER);
  await studio.until("the block to be selected", () =>
    studio.run(
      "return document.querySelector('[data-order][aria-selected=true]')?.innerText.includes('Text')",
    ),
  );
  await studio.press(Key.ENTER);
  await studio.until("the text to be written", () =>
    studio.run(
      "return document.querySelector(arguments[0]).contentDocument.querySelector('.writing') !== null",
      "[aria-label='Wide sheet'] iframe",
    ),
  );
  const sheet = (script: string) =>
    studio.run<string>(
      `const page = document.querySelector("[aria-label='Wide sheet'] iframe").contentDocument.querySelector('.writing'); return ${script}`,
    );
  await studio.chord(Key.CONTROL, "a");
  await studio.press("- Apples", Key.ENTER, "Pears");
  await studio.until(
    "a list",
    async () => (await sheet("page.querySelectorAll('ul li').length")) === (2 as never),
  );
  // To the bar and along it, with the words kept: all of it becomes a numbered list.
  await studio.chord(Key.CONTROL, "a");
  await studio.chord(Key.ALT, Key.F10);
  const focused = () =>
    studio.run<string>("return document.activeElement.getAttribute('aria-label')");
  await studio.until("the bar", async () => (await focused()) === "Bold");
  for (let i = 0; i < 20 && (await focused()) !== "Numbered list"; i++) {
    await studio.press(Key.ARROW_RIGHT);
  }
  await studio.press(Key.ENTER);
  await studio.until(
    "a numbered list",
    async () => (await sheet("page.querySelectorAll('ol li').length")) === (2 as never),
  );
  // The link has a key of its own, and opens with the cursor in the address; a bare host is completed.
  await studio.chord(Key.CONTROL, "a");
  await studio.chord(Key.CONTROL, "k");
  await studio.until("the address to have the focus", async () => (await focused()) === "Address");
  await studio.press("larkmoor.example/fruit", Key.ENTER);
  await studio.until(
    "the link",
    async () => (await sheet("page.querySelector('a') !== null")) === (true as never),
  );
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.chord(Key.CONTROL, "z");
  await studio.saved();
});

it("keeps what is typed while the script for writing is still on its way", async () => {
  const path = await studio.newCampaign("Typed at once", "Template: Calm newsletter");
  const opened = async () => {
    await studio.line("well");
    await (studio.driver as ChromiumDriver).sendDevToolsCommand("Network.clearBrowserCache", {});
    await studio.driver.get(`${studio.base}${path}`);
    await studio.composing();
    await studio.line("slow");
  };
  const blocks = async () => (await studio.runningOrder()).length;

  // In a field, which shows its words meanwhile.
  await opened();
  const subject = '[data-line="envelope.subject"] [role=textbox]';
  await studio.run("document.querySelector(arguments[0]).focus()", subject);
  const still = await studio.run<string>(
    "return document.querySelector(arguments[0]).className",
    subject,
  );
  expect(still).not.toContain("ProseMirror");
  await studio.press("!", "?", Key.BACK_SPACE, " d");
  await studio.until("the field to have the letters", () =>
    studio.run(
      `const field = document.querySelector(arguments[0]);
       return field.classList.contains('ProseMirror') && field === document.activeElement && field.textContent.endsWith('! d')`,
      subject,
    ),
  );
  await studio.press("ays");
  await studio.saved();

  // A field that is left before it could be written in keeps the words as well.
  await opened();
  await studio.run("document.querySelector(arguments[0]).focus()", subject);
  await studio.press(", early", Key.TAB);
  await studio.until("the words in the running order", () =>
    studio.run(
      "return document.querySelector('[data-order=envelope]').textContent.includes(', early')",
    ),
  );

  // On a sheet: the keys of the composer do nothing meanwhile.
  await opened();
  const before = await blocks();
  await studio.clickIn("wide", "h1", 2);
  await studio.press(Key.DELETE, ", at length");
  await studio.sheetShows("narrow", ", at length");
  await studio.press(Key.ESCAPE);

  // All of it is selected and written over, and left with Escape before there is an editor.
  await opened();
  await studio.clickIn("wide", "h1", 2);
  await studio.selectAll();
  await studio.press("Asters at last", Key.ESCAPE, Key.ARROW_DOWN);
  await studio.sheetShows("narrow", "Asters at last");
  await opened();
  await studio.clickIn("wide", "h1", 2);
  await studio.selectAll();
  await studio.press("Asters for all");
  await studio.sheetShows("narrow", "Asters for all");
  await studio.press(" of us", Key.ESCAPE);
  await studio.line("well");
  await studio.saved();
  expect(await blocks()).toBe(before);
  const stored = JSON.stringify(await studio.storedDocument(path));
  expect(stored).toContain("! days, early");
  expect(stored).toContain("Asters for all of us");
  expect(stored).not.toContain("at l");
}, 120_000);
