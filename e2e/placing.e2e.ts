/** Where things land: drags into every kind of place, several pieces at once, pictures and foreign text. */
import { Key } from "selenium-webdriver";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { walk } from "#core/document/index.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const order = (...expected: string[]) =>
  studio.until(
    `the running order ${expected.join(", ")}`,
    async () => JSON.stringify(await studio.runningOrder()) === JSON.stringify(expected),
  );
/** The blocks of each column of each band, by type. */
const grid = async (path: string) =>
  (await studio.storedDocument(path)).root.children.map((band) =>
    band.children.map((column) => column.children.map((block) => block.type)),
  );

it("a block from the tray lands in an empty column, beside a block, between bands and in the running order", async () => {
  const path = await studio.newCampaign("Places");
  await (await studio.find('[data-tray="band2"]')).click();
  await studio.saved();
  expect(await grid(path)).toEqual([[[], []], [["footer"]]]);
  expect(await studio.dragFromTray("heading", "wide", ".em", 0.5)).toBe("into the empty column");
  expect(await grid(path)).toEqual([[[], ["heading"]], [["footer"]]]);

  // Beside the footer: near its left edge.
  const tray = await studio.find('[data-tray="button"]');
  const edge = await studio.inSheet<{ x: number; y: number }>(
    "wide",
    `const f = frame('wide').getBoundingClientRect(); const k = f.width / frame('wide').clientWidth;
     const rows = [...page.querySelectorAll('tr[data-node]')].at(-1).getBoundingClientRect();
     return { x: Math.round(f.x + rows.x * k + 8), y: Math.round(f.y + (rows.y + rows.height / 2) * k) };`,
  );
  expect(await studio.drag(tray, edge)).toBe("left of the footer, in a column of its own");
  await studio.saved();
  expect(await grid(path)).toEqual([
    [[], ["heading"]],
    [["button"], ["footer"]],
  ]);

  // Between the two bands, full width.
  const between = await studio.inSheet<{ x: number; y: number }>(
    "wide",
    `const f = frame('wide').getBoundingClientRect(); const k = f.width / frame('wide').clientWidth;
     const band = page.querySelectorAll('[role=article] > table')[1].getBoundingClientRect();
     return { x: Math.round(f.x + 200 * k), y: Math.round(f.y + band.y * k + 2) };`,
  );
  const words = await studio.drag(await studio.find('[data-tray="divider"]'), between);
  expect(words).toBe("between the band and “Footer”, full width");
  await studio.saved();
  expect((await grid(path))[1]).toEqual([["divider"]]);

  // In the running order: under the heading.
  const row = await studio.rowPoint("A new heading", 0.9);
  expect(await studio.drag(await studio.find('[data-tray="text"]'), row)).toBe(
    "below “A new heading”",
  );
  await studio.saved();
  expect((await grid(path))[0]).toEqual([[], ["heading", "text"]]);
  await studio.sheetShows("narrow", "Write here");
}, 120_000);

it("pieces change places by drag in the running order, and by keyboard", async () => {
  await studio.newCampaign("Order", "Template: Calm newsletter");
  const before = await studio.runningOrder();
  expect(before.slice(2, 7)).toEqual([
    "Opening",
    "Image",
    "What this email is about",
    "Text",
    "Button",
  ]);
  const words = await studio.dragFrom(
    await studio.rowPoint("Button"),
    await studio.rowPoint("Image", 0.2),
  );
  expect(words).toBe("above the image");
  expect((await studio.runningOrder()).slice(3, 6)).toEqual([
    "Button",
    "Image",
    "What this email is about",
  ]);
  const band = await studio.dragFrom(
    await studio.rowPoint("Two things"),
    await studio.rowPoint("Opening", 0.1),
  );
  expect(band).toBe("between “Masthead” and “Opening”, full width");
  expect((await studio.runningOrder())[2]).toBe("Two things");
  await studio.clickRow("Image");
  await studio.chord(Key.ALT, Key.ARROW_UP);
  await studio.saved();
  const after = await studio.runningOrder();
  expect(after.indexOf("Image")).toBeLessThan(after.indexOf("Button"));
}, 90_000);

it("several pieces are moved, grouped, copied to another campaign and deleted together", async () => {
  const path = await studio.newCampaign("Together", "Template: Calm newsletter");
  await studio.clickRow("Image");
  await studio.clickRow("Button", Key.SHIFT);
  await studio.sees("4 blocks");
  await studio.clickRow("What this email is about", Key.CONTROL);
  await studio.sees("3 blocks");
  await studio.click("Put into a card");
  await studio.saved();
  expect((await grid(path))[1]).toEqual([["card", "heading"]]);
  const card = [...walk((await studio.storedDocument(path)).root)].find((n) => n.type === "card")!;
  expect(card.children.map((one) => one.type)).toEqual(["image", "text", "button"]);

  // On a sheet: click and Ctrl+click, then copy.
  await studio.clickIn("wide", "h1");
  await studio.driver.actions().keyDown(Key.SHIFT).perform();
  await studio.clickRow("Card");
  await studio.driver.actions().keyUp(Key.SHIFT).perform();
  await studio.sees("2 blocks");
  await studio.chord(Key.CONTROL, "c");
  await studio.newCampaign("Pasted");
  await studio.clickRow("Footer");
  await studio.chord(Key.CONTROL, "v");
  await studio.saved();
  await studio.sheetShows("narrow", "What this email is about");
  const order = await studio.runningOrder();
  expect(order.slice(order.indexOf("Card"), order.indexOf("Card") + 5)).toEqual([
    "Card",
    "Image",
    "Text",
    "Button",
    "What this email is about",
  ]);
  await studio.press(Key.DELETE);
  await studio.saved();
  expect(await studio.runningOrder()).toEqual(["Footer", "Footer"]);
}, 120_000);

it("a picture file that is dropped becomes an image, and one that is none is refused with a word", async () => {
  await studio.newCampaign("Files", "Template: Calm newsletter");
  const data = await sharp({
    create: { width: 300, height: 120, channels: 3, background: "#2f6b4a" },
  })
    .png()
    .toBuffer();
  const drop = async (base64: string, name: string, type: string) => {
    const point = (await studio.pointIn("wide", "h1", 0.2))!;
    await studio.run(
      `const [data, name, type, x, y] = arguments;
       const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
       const transfer = new DataTransfer();
       transfer.items.add(new File([bytes], name, { type }));
       const fire = (kind) => window.dispatchEvent(new DragEvent(kind, { dataTransfer: transfer, clientX: x, clientY: y, bubbles: true, cancelable: true, view: window }));
       fire('dragenter'); fire('dragover'); window.dropNow = () => fire('drop');`,
      base64,
      name,
      type,
      point.x,
      point.y,
    );
    await studio.find("[data-landing]");
    await studio.run("window.dropNow()");
  };
  const before = await studio.inSheet<number>("wide", "return page.images.length");
  await drop(data.toString("base64"), "meadow.png", "image/png");
  await studio.until("the image", async () => {
    const now = await studio.inSheet<number>("wide", "return page.images.length");
    return now === before + 1;
  });
  await studio.saved();
  await studio.until("the picture to be shown", () =>
    studio.inSheet("wide", "return [...page.images].some((i) => i.complete && i.naturalWidth > 0)"),
  );
  await drop(Buffer.from("no picture").toString("base64"), "broken.png", "image/png");
  await studio.sees("This file could not be read as an image.");
}, 90_000);

it("a pasted table becomes a table, foreign text keeps its structure, and hostile HTML does nothing", async () => {
  const path = await studio.newCampaign("Pasting", "Template: Calm newsletter");
  const types = async () =>
    [...walk((await studio.storedDocument(path)).root)].map((node) => node.type);
  await studio.clickIn("wide", "h1");
  await studio.paste("wide", { "text/plain": "Day\tTime\nMonday\t9:30\nTuesday\t10:00\n" });
  await studio.saved();
  await studio.sheetShows("wide", "Tuesday");
  expect(await types()).toContain("table");

  await studio.clickIn("wide", "h1");
  await studio.paste("wide", {
    "text/html": `<h2 onclick="window.top.hacked=1">From <b>elsewhere</b></h2><p style="font:60px Papyrus">Two <i>words</i><img src=x onerror="window.top.hacked=1"></p><script>window.top.hacked=1</script><ul><li>one</li></ul>`,
    "text/plain": "x",
  });
  await studio.saved();
  await studio.sheetShows("narrow", "From elsewhere");
  const html = await studio.inSheet<string>(
    "wide",
    "return page.querySelector('[role=article]').innerHTML",
  );
  expect(html).not.toMatch(/onerror|onclick|Papyrus|<script/);
  expect(await studio.run("return window.hacked === undefined")).toBe(true);

  // Into a text: plain words stay plain, an address over chosen words links them.
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.selectAll();
  await studio.paste("wide", { "text/plain": "First paragraph\n\nSecond one" });
  await studio.selectAll();
  await studio.paste("wide", { "text/plain": "https://larkmoor.example/walks" });
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.sheetShows("narrow", "Second one");
  expect(JSON.stringify(await studio.storedDocument(path))).toContain("larkmoor.example/walks");

  // A megabyte of somebody's word processor is cut, and nothing hangs.
  const huge = `<html xmlns:o="urn:x"><body>${'<p class="x" style="mso-margin-top-alt:auto;font-family:Calibri"><span lang="EN" style="color:#1F497D">Many words of a long report<o:p></o:p></span></p>'.repeat(8_000)}</body></html>`;
  expect(huge.length).toBeGreaterThan(1_000_000);
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.selectAll();
  const begin = Date.now();
  await studio.paste("wide", { "text/html": huge, "text/plain": "x" });
  await studio.sees("only the beginning was pasted");
  expect(Date.now() - begin).toBeLessThan(15_000);
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.sheetShows("narrow", "Many words of a long report");
}, 120_000);

it("a spot is chosen with the arrow keys, and each is announced", async () => {
  const path = await studio.newCampaign("By arrows");
  const said = () =>
    studio.run<string>("return document.querySelector('[data-announcer]').textContent");
  const add = async (name: string, ...keys: string[]) => {
    await studio.chord(Key.CONTROL, Key.ENTER);
    await studio.find("[cmdk-input]");
    await studio.press(name, Key.ENTER);
    await studio.find("[data-landing]");
    const heard: string[] = [await said()];
    for (const key of keys) {
      await studio.press(key);
      heard.push(await said());
    }
    await studio.press(Key.ENTER);
    await studio.saved();
    return heard;
  };
  await studio.clickRow("Footer");
  expect(await add("Heading", Key.HOME)).toEqual(
    ["above the footer, 2 of 4", "above “Footer”, full width, 1 of 4"].map((words, i) =>
      i === 0 ? expect.stringContaining("footer") : words,
    ),
  );
  await add("Text", Key.ARROW_RIGHT);
  expect(await grid(path)).toEqual([[["heading"], ["text"]], [["footer"]]]);
  await add("Divider", Key.END);
  expect((await grid(path)).at(-1)).toEqual([["divider"]]);
  await studio.chord(Key.CONTROL, Key.ENTER);
  await studio.find("[cmdk-input]");
  await studio.press("Quote", Key.ENTER);
  await studio.find("[data-landing]");
  await studio.press(Key.ESCAPE);
  expect(await said()).toBe("Nothing was put in.");
  await order("Band", "A new heading", "Text", "Footer", "Footer", "Band", "Divider");
}, 90_000);
