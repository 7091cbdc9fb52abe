/** A block that stands linked in three emails: refused where it stands, changed in one, changed in all. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { type DocNode, walk } from "#core/document/index.ts";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
const paths: string[] = [];
const HEADING = "h1[data-text], h2[data-text]";
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
}, 180_000);
afterAll(() => own?.end());

const linkedIn = async (path: string): Promise<DocNode | undefined> =>
  [...walk((await studio.storedDocument(path)).root)].find(({ props }) => props.linked);

it("is saved from one email, stays linked there, and is put into two others", async () => {
  paths.push(await studio.newCampaign("Linked one"));
  await studio.composing();
  await studio.addBlock("Heading");
  await studio.click("Save…");
  await studio.fill("Name", "What they say");
  await studio.click("Keep this one linked to it", "label");
  await studio.click("Save");
  await studio.sees("and the same wherever it stands");
  await studio.saved();
  for (const name of ["Linked two", "Linked three"]) {
    paths.push(await studio.newCampaign(name));
    await studio.composing();
    await studio.click("Saved…");
    await studio.click("Linked: changes wherever the saved one is changed", "label");
    expect(await serious(studio, "saved blocks in the tray")).toEqual([]);
    await studio.click("What they say", "button");
    await studio.saved();
    expect((await linkedIn(paths.at(-1)!))?.type).toBe("heading");
  }
}, 180_000);

it("cannot be changed by itself, and changes in all three where it is changed everywhere", async () => {
  const other = await own.another();
  await other.go(paths[0]!);
  await other.composing();
  const before = JSON.stringify(await linkedIn(paths[2]!));
  const write = async (words: string) => {
    await studio.clickIn("wide", HEADING, 2);
    await studio.selectAll();
    await studio.driver.actions().sendKeys(words).perform();
  };
  await studio.go(paths[0]!);
  await studio.composing();
  await write("Mine alone");
  await studio.sees("it is linked, and the same wherever it stands");
  await studio.clickIn("wide", HEADING);
  await studio.click("Change it", "button");
  await studio.sees("You are changing “What they say” here.");
  await write("Everybody should see this");
  await studio.saved();
  expect(JSON.stringify(await linkedIn(paths[1]!))).not.toContain("Everybody should see this");
  await studio.click("Put it in everywhere…");
  await studio.sees("“Linked one”");
  await studio.sees("“Linked two”");
  await studio.click("Put it in everywhere", "button");
  await studio.sees("is changed everywhere");
  // Whoever has another open sees it there.
  await other.sheetShows("wide", "Everybody should see this");
  for (const path of paths) {
    await studio.until("it to be in all of them", async () =>
      JSON.stringify(await linkedIn(path)).includes("Everybody should see this"),
    );
  }
  expect(before).not.toContain("Everybody should see this");
}, 180_000);

it("is made loose, and is this email’s own from then on", async () => {
  await studio.go(paths[1]!);
  await studio.composing();
  await studio.clickIn("wide", HEADING);
  await studio.click("Unlink");
  await studio.saved();
  expect(await linkedIn(paths[1]!)).toBeUndefined();
  expect(JSON.stringify(await studio.storedDocument(paths[1]!))).toContain(
    "Everybody should see this",
  );
}, 60_000);
