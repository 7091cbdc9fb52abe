/** An image on its way from the device into emails: taken, told of, cut, written on, made lighter, put in its place. */
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { By, Key } from "selenium-webdriver";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
let folder: string;
beforeAll(async () => {
  studio = await Studio.open();
  folder = mkdtempSync(join(tmpdir(), "septima-pictures-"));
}, 60_000);
afterAll(async () => {
  await studio?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A file of noise, so that weight can be taken off it. */
async function photo(name: string, background: string): Promise<string> {
  const grain = { type: "gaussian" as const, mean: 128, sigma: 50 };
  const create = { width: 900, height: 600, channels: 3 as const, background, noise: grain };
  const file = join(folder, name);
  writeFileSync(file, await sharp({ create }).jpeg({ quality: 95 }).toBuffer());
  return file;
}
const chooses = (...files: string[]) =>
  studio.driver
    .findElement(By.css('input[aria-label="Images from this device"]'))
    .sendKeys(files.join("\n"));
/** What stands under the image that is worked on. */
const weight = async () => {
  const words = await studio.run<string>(
    "return [...document.querySelectorAll('[role=status]')].map((one) => one.innerText).find((text) => / × /.test(text)) ?? ''",
  );
  const [, width, height, kb] = /(\d+) × (\d+)(?:, ([\d,]+) KB)?/.exec(words) ?? [];
  const idle = !words.endsWith("…") && kb !== undefined;
  return { width: Number(width), height: Number(height), kb: Number(kb?.replace(",", "")), idle };
};
const drawn = async () => {
  await studio.until("the image to be drawn", async () => (await weight()).idle);
  return weight();
};

it("several come at once, what they show is asked at once, and one is refused with a word", async () => {
  await studio.go("/library");
  const wrong = join(folder, "notes.png");
  writeFileSync(wrong, "no image at all");
  await chooses(
    await photo("Frost on twigs.jpg", "#9fb4c4"),
    wrong,
    await photo("Moss.jpg", "#40603a"),
  );
  await studio.sees("This file could not be read as an image.");
  await studio.fill("Alt text of Frost on twigs.jpg", "Twigs white with frost");
  await (await studio.named("Alt text of Frost on twigs.jpg")).sendKeys(Key.ENTER);
  await studio.until(
    "the question to go",
    async () =>
      (await studio.driver.findElements(By.css('[aria-label="Alt text of Frost on twigs.jpg"]')))
        .length === 0,
  );
  expect(await serious(studio, "images that come")).toEqual([]);
  await studio.click("Later");
  await studio.fill("A new folder", "Winter");
  await studio.click("Add the folder");
  await studio.sees("In no folder");
  await studio.click("Choose Frost on twigs.jpg");
  await studio.choose("Folder", "Winter");
  await studio.click("Move");
  await studio.until("it to lie in the folder", async () =>
    /Winter\s+1/.test(
      await studio.run<string>(
        "return document.querySelector('nav[aria-label=Folders]').innerText",
      ),
    ),
  );
}, 120_000);

it("is put into an email with its alt text, cut, written on, made lighter, and put in its place there", async () => {
  await studio.newCampaign("Frost");
  await studio.composing();
  await studio.addBlock("Image");
  await (await studio.find("button[aria-label$=': choose']")).click();
  await studio.click("Take Frost on twigs.jpg");
  await studio.saved();
  const alt = () =>
    studio.run<string>(
      "return document.querySelector('iframe').contentDocument.querySelector('img[alt^=Twigs]')?.alt ?? ''",
    );
  await studio.until("the alt text to come along", async () => (await alt()) !== "");

  await studio.go("/library?search=frost");
  await studio.driver.findElement(By.css('main a[href^="/library/image/"]')).click();
  await studio.sees("Used in");
  await studio.click("Edit");
  const before = await drawn();
  await studio.click("As light a file as still looks well", "label");
  await studio.until("it to be lighter", async () => {
    const now = await weight();
    return now.idle && now.kb < before.kb * 0.8;
  });
  await studio.click("Cut out");
  await studio.choose("Shape", "Square");
  await studio.click("Done cutting");
  await studio.until("it to be square", async () => {
    const now = await weight();
    return now.idle && now.width === now.height;
  });
  await studio.click("Add words");
  await studio.fill("Words 1", "First frost");
  // By keys as well: the thumb of a line is moved by an arrow.
  const bright = await studio.find("[role=slider][aria-label=Brightness]");
  await bright.sendKeys(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
  await drawn();
  expect(await serious(studio, "an image that is worked on")).toEqual([]);
  await studio.click("Replace the original");
  await studio.click("Replace it");
  await studio.sees("Replaced in “Frost”.");

  const square = () =>
    studio.run<boolean>(
      "const img = document.querySelector('iframe')?.contentDocument.querySelector('img[alt^=Twigs]'); return !!img && Number(img.getAttribute('width')) === Number(img.getAttribute('height'))",
    );
  await studio.go("/campaigns");
  await studio.click("Frost", "a");
  await studio.composing();
  await studio.until("the email to show the square", square);
}, 180_000);

it("is cut for its block without leaving the email, and two see it at once", async () => {
  const other = await Studio.open();
  try {
    await other.go(new URL(await studio.driver.getCurrentUrl()).pathname);
    await other.composing();
    await studio.clickIn("wide", "img");
    await studio.click("Edit", "button");
    await studio.click("Turn right");
    await studio.click("Put it here");
    await studio.saved();
    const src = (who: Studio) =>
      who.run<string>(
        "return document.querySelector('iframe').contentDocument.querySelector('img[alt^=Twigs]')?.src ?? ''",
      );
    const mine = await src(studio);
    await other.until("the other to see it", async () => (await src(other)) === mine);
  } finally {
    await other.close();
  }
}, 120_000);
