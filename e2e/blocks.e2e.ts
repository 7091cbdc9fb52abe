/** Blocks that hold things, as a designer works with them: on the sheet, in the settings, by hand and keyboard. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const CELLS =
  "return [...page.querySelectorAll('th, [scope=col], td span[data-text=words], td div[data-text=words]')].map((one) => one.innerText.trim())";
const cells = async () =>
  [...new Set(await studio.inSheet<string[]>("wide", CELLS))].filter((text) => text !== "");
const order = async (...expected: string[]) =>
  studio.until(`the running order to have ${expected.join(", ")}`, async () => {
    const rows = (await studio.runningOrder()).join("\n");
    return rows.includes(expected.join("\n"));
  });

it("a table is written cell by cell, gains a row and a column, and turns into pairs on narrow", async () => {
  await studio.newCampaign("Tables");
  await studio.addBlock("Table");
  await studio.sheetShows("wide", "A guided walk");
  // Enter writes in the first cell; Tab goes on to the next.
  await studio.run("document.querySelector('[data-order][aria-selected=true]').focus()");
  await studio.press(Key.ENTER);
  const writing = () =>
    studio.inSheet<string>("wide", "return page.querySelector('.writing')?.innerText.trim() ?? ''");
  await studio.until("the first cell to be written", async () => (await writing()) === "What");
  await studio.selectAll();
  await studio.press("Walk");
  await studio.press(Key.TAB);
  await studio.until("the next cell to be written", async () => (await writing()) === "When");
  await studio.selectAll();
  await studio.press("Day", Key.ESCAPE);
  await studio.saved();
  expect((await cells()).slice(0, 3)).toEqual(["Walk", "Day", "Price"]);

  // The settings of the table: the path leads back to it.
  await studio.click("Table");
  await studio.click("Row", "button");
  await studio.saved();
  await studio.click("Table");
  await studio.click("Table column", "button");
  await studio.saved();
  const shape = () =>
    studio.inSheet<number[]>(
      "wide",
      "return [...page.querySelectorAll('tr')].filter((row) => row.querySelector(':scope > [align][valign]')).map((row) => row.children.length)",
    );
  expect(await shape()).toEqual([4, 4, 4, 4]);
  await studio.click("Table");
  await studio.click("Take out Table column 4");
  await studio.saved();
  expect(await shape()).toEqual([3, 3, 3, 3]);

  await studio.choose("On narrow", "Name and value");
  await studio.sheetShows("narrow", "Walk: A guided walk");
  expect(await studio.sheetText("wide")).not.toContain("Walk: A guided walk");
});

it("items are ordered by keyboard, renamed and taken out, and the last one stays", async () => {
  await studio.newCampaign("Links");
  await studio.addBlock("Links row");
  const shown = () =>
    studio.inSheet<string[]>(
      "wide",
      "return [...page.querySelectorAll('[data-text=label]')].map((one) => one.innerText)",
    );
  expect(await shown()).toEqual(["Visit", "What is on", "Shop"]);
  // The grip takes the space bar and the arrows.
  const grip = await studio.named("Move Visit");
  await grip.sendKeys(Key.SPACE);
  await studio.driver.sleep(150);
  await studio.press(Key.ARROW_DOWN);
  await studio.driver.sleep(250);
  await studio.press(Key.SPACE);
  await studio.until("the links to change places", async () => (await shown())[0] === "What is on");
  await studio.click("Take out Shop");
  await studio.until("one to be gone", async () => (await shown()).length === 2);
  await studio.click("Take out Visit");
  await studio.until("the last to be kept", async () => {
    const last = await studio.named("Take out What is on");
    return (await last.getAttribute("disabled")) !== null;
  });
  // Undo brings it back, where it was.
  await studio.chord(Key.CONTROL, "z");
  await studio.until("it to be back", async () => (await shown()).join() === "What is on,Visit");
});

it("a card takes blocks in, by the list and by drag, and goes with them", async () => {
  await studio.newCampaign("Cards");
  await studio.addBlock("Card");
  await studio.addBlock("Heading");
  await order("Card", "A new heading");
  const inside = (words: string) =>
    studio.inSheet<boolean>(
      "wide",
      "const card = [...page.querySelectorAll('tr[data-node]')].find((row) => row.querySelector('tr[data-node]')); return card?.innerText.includes(args[0]) ?? false",
      words,
    );
  expect(await inside("A new heading")).toBe(true);
  const words = await studio.dragFromTray("text", "wide", "h1", 0.9);
  expect(words).toBe("below “A new heading”");
  await studio.until("the text to be in the card", () => inside("Write here"));
  await studio.click("Card");
  await studio.chord(Key.CONTROL, "d");
  await order("Card", "A new heading", "Text", "Card", "A new heading", "Text");
});

it("HTML of one's own is cleaned, and what went is named", async () => {
  await studio.newCampaign("Own HTML");
  await studio.addBlock("HTML");
  const field = await studio.find("[role=textbox][aria-label=HTML]");
  await field.click();
  await field.sendKeys(
    Key.chord(Key.CONTROL, "a"),
    '<p onclick="steal()">Hello {{ contact.first_name | default: "you" }}</p><script>alert(1)</script>',
  );
  await (await studio.named("Spacing", "h3").catch(() => field)).click();
  await studio.press(Key.TAB);
  await studio.sees("Taken out");
  await studio.sees("<script>");
  await studio.sees("onclick");
  await studio.sheetShows("wide", "Hello ");
  const shown = await studio.inSheet<string>(
    "wide",
    "return page.querySelector('[role=article]').innerHTML",
  );
  expect(shown).not.toContain("script");
  expect(shown).not.toContain("onclick");
  expect(await studio.sheetText("wide")).not.toContain("{{");
});

it("plain text written by hand is marked as stale when the block changes", async () => {
  await studio.newCampaign("By hand");
  await studio.addBlock("Heading");
  await studio.click("Write it by hand");
  const field = await studio.named("Written by hand", "textarea");
  expect(await field.getAttribute("value")).toBe("A new heading\n=============");
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), "MY OWN WORDS", Key.TAB);
  await studio.saved();
  expect(await studio.pageText()).not.toContain("may be stale");
  await studio.clickIn("wide", "h1", 2);
  await studio.selectAll();
  await studio.press("Something else", Key.ESCAPE);
  await studio.sees("This text may be stale.");
  await studio.click("It still fits");
  await studio.until(
    "the mark to go",
    async () => !(await studio.pageText()).includes("may be stale"),
  );
  const address = new URL(await studio.driver.getCurrentUrl()).pathname;
  await studio.saved();
  await studio.go(`${address}/proof`);
  await studio.sees("MY OWN WORDS");
});

it("numbers out of range are corrected with a word on why; nothing else is taken for a number", async () => {
  await studio.newCampaign("Numbers");
  await studio.addBlock("Spacer");
  await studio.fill("Height, px", "900");
  await studio.press(Key.TAB);
  await studio.sees("At most 200, so 200 it is.");
  expect(await (await studio.named("Height, px")).getAttribute("value")).toBe("200");
  await studio.fill("Height, px", "tall");
  await studio.press(Key.TAB);
  await studio.sees("A whole number, or a sum such as 12 + 4.");
  expect(await (await studio.named("Height, px")).getAttribute("value")).toBe("tall");
});

it("columns are dragged, typed and made equal", async () => {
  await studio.newCampaign("Columns");
  await (await studio.find('[data-tray="band2"]')).sendKeys(Key.ENTER);
  await studio.saved();
  const shares = async () =>
    Promise.all(
      ["Column 1", "Column 2"].map(async (name) =>
        (await studio.named(name, "input")).getAttribute("value"),
      ),
    );
  expect(await shares()).toEqual(["50", "50"]);
  const line = await studio.find('[aria-label="Wide sheet"] [data-line="0"]');
  const { width } = await (await studio.find('[aria-label="Wide sheet"] iframe')).getRect();
  await studio.driver
    .actions()
    .move({ origin: line, duration: 0 })
    .press()
    .move({ origin: line, x: Math.round(width * 0.2), duration: 150 })
    .release()
    .perform();
  await studio.until("the first column to be wider", async () => Number((await shares())[0]) > 60);
  await studio.fill("Column 1", "30");
  await studio.press(Key.TAB);
  await studio.until("the widths that were typed", async () => (await shares()).join() === "30,70");
  await studio.click("Make them equal");
  await studio.until("equal widths", async () => (await shares()).join() === "50,50");
});

it("the sheets go dark, turn around, and grow with the email", async () => {
  await studio.newCampaign("Dark");
  await studio.addBlock("Image and text");
  const ground = () =>
    studio.inSheet<string>(
      "narrow",
      "return page.defaultView.getComputedStyle(page.body).backgroundColor",
    );
  const light = await ground();
  await studio.click("As in a dark mail program");
  await studio.until("the sheet to be dark", async () => (await ground()) !== light);
  await studio.click("As in a light mail program");
  await studio.until("the sheet to be light", async () => (await ground()) === light);
  await studio.sees("of 102 KB");

  await studio.click("Email");
  const side = () =>
    studio.inSheet<number>("wide", "return page.querySelector('h2').getBoundingClientRect().left");
  const before = await side();
  await studio.choose("Text direction", "Right to left");
  await studio.until("the picture to change sides", async () => (await side()) < before);
});

it("words are raised, coloured and set in, and all of it stands in the email", async () => {
  await studio.newCampaign("Typography");
  await studio.addBlock("Text");
  await studio.clickIn("wide", "[data-text=words]", 2);
  await studio.selectAll();
  await studio.press("m2");
  await studio.chord(Key.SHIFT, Key.ARROW_LEFT);
  await studio.click("Superscript");
  await studio.selectAll();
  await studio.click("Text colour");
  const swatch = await studio.find('[role=group][aria-label="Text colour"] [aria-label=Accent]');
  // Whatever the theme of the house says by now.
  const accent = await swatch.getCssValue("background-color");
  const [r, g, b] = accent.match(/\d+/g)!.map(Number) as [number, number, number];
  await swatch.click();
  await studio.selectAll();
  await studio.click("Indent");
  // On the sheet while it is written, in the theme's colour.
  await studio.until("the colour while writing", () =>
    studio.inSheet(
      "wide",
      "const one = page.querySelector('.writing [data-colour=accent]'); return one && page.defaultView.getComputedStyle(one).color === args[0]",
      `rgb(${r}, ${g}, ${b})`,
    ),
  );
  await studio.press(Key.ESCAPE);
  await studio.saved();
  const html = () =>
    studio.inSheet<string>("narrow", "return page.querySelector('[data-text=words]').innerHTML");
  await studio.until("the narrow sheet to have it", async () => (await html()).includes("<sup"));
  expect(await html()).toMatch(/margin:0 0 0 24px/);
  const hex = [r, g, b].map((channel) => channel.toString(16).padStart(2, "0")).join("");
  expect(await html()).toContain(`color:#${hex}`);
});

it("a band gets a picture, a border and room, and changes its order on narrow", async () => {
  await studio.newCampaign("Bands");
  await (await studio.find('[data-tray="band2"]')).sendKeys(Key.ENTER);
  await studio.saved();
  await studio.takePicture();
  const style = (property: string) =>
    studio.inSheet<string>(
      "wide",
      `const cell = page.querySelector('td[background]'); return cell ? page.defaultView.getComputedStyle(cell).${property} : ''`,
    );
  await studio.until("the picture behind", async () =>
    (await style("backgroundImage")).includes("/pictures/"),
  );
  await studio.fill("Border, px", "3");
  await studio.press(Key.TAB);
  await studio.until("the border", async () => (await style("borderTopWidth")) === "3px");
  await studio.fill("Corners, px", "12");
  await studio.press(Key.TAB);
  await studio.until("the corners", async () => (await style("borderTopLeftRadius")) === "12px");
  await studio.fill("Least height, px", "200");
  await studio.press(Key.TAB);
  const height = () =>
    studio.inSheet<number>(
      "wide",
      "return page.querySelector('td[background]').getBoundingClientRect().height",
    );
  await studio.until("the height", async () => (await height()) >= 200);

  // One number for all sides outside: the picture stands in from the edge.
  const left = () =>
    studio.inSheet<number>(
      "wide",
      "return page.querySelector('td[background]').getBoundingClientRect().left",
    );
  expect(await left()).toBe(0);
  const fields = await studio.driver.findElements({
    xpath: "//label[.='All sides, px' or .='All sides']",
  });
  const room = await studio.driver.findElement({ id: (await fields.at(-1)!.getAttribute("for"))! });
  await room.click();
  await room.sendKeys(Key.chord(Key.CONTROL, "a"), "20", Key.TAB);
  await studio.until("room outside", async () => (await left()) === 20);

  await studio.choose("Columns on narrow", "Last one first");
  await studio.saved();
  const columns = (sheet: "wide" | "narrow") =>
    studio.inSheet<{ x: number; y: number }[]>(
      sheet,
      "return [...page.querySelectorAll('.cl')].map((one) => one.getBoundingClientRect()).map(({ x, y }) => ({ x, y }))",
    );
  // In the source the last comes first: on wide it stands last, on narrow on top.
  await studio.until("the order on wide", async () => {
    const [first, second] = await columns("wide");
    return first!.x > second!.x;
  });
  const [first, second] = await columns("narrow");
  expect(first!.y).toBeLessThan(second!.y);
});

it("plain text lists its links by number, and a web font is taken only from a whole address", async () => {
  const path = await studio.newCampaign("Text and fonts");
  await studio.addBlock("Button");
  const address = await studio.find('[aria-label="Address"][role=textbox]');
  await address.click();
  await address.sendKeys(Key.chord(Key.CONTROL, "a"), "https://larkmoor.example/visit", Key.TAB);
  await studio.saved();
  await studio.click("Email");
  await studio.choose("Links in plain text", "Numbered");
  await studio.saved();

  await studio.click("A font of your own for headings", "summary");
  await studio.click("One from the web", "summary");
  await studio.fill("Its name", "Garden Display");
  await studio.fill("Address of its file", "http://fonts.example/a.ttf");
  await studio.press(Key.TAB);
  await studio.sees("The address of a font file begins with https://");
  await studio.fill("Address of its file", "https://fonts.example/garden.woff2");
  await studio.press(Key.TAB);
  await studio.until("the font on the sheet", () =>
    studio.inSheet(
      "wide",
      "return [...page.querySelectorAll('style')].some((one) => one.textContent.includes(\"font-family:'Garden Display'\"))",
    ),
  );
  await studio.saved();
  await studio.go(`${path}/proof`);
  await studio.sees("Read more [1]");
  await studio.sees("[1] https://larkmoor.example/visit");
});
