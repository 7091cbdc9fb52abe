/** What a template's author holds stays, whatever way somebody who is held tries to change it. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { type DocNode, walk } from "#core/document/index.ts";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import type { Studio } from "./studio.ts";

let own: OwnStudio;
let studio: Studio;
let marketer: Studio;
let path: string;
beforeAll(async () => {
  own = await ownStudio();
  studio = own.studio;
  path = await studio.newCampaign("Held", "Earlier campaign: Autumn, an idea");
  await studio.go("/settings");
  await studio.fill("Their name", "Mara Quill");
  await studio.fill("They sign in with", "mara@larkmoor.example");
  await studio.choose("Role", "Marketer");
  await studio.click("Add to the team");
  const field = await studio.named("Sign-in address of Mara Quill");
  const address = new URL(String(await field.getAttribute("value")));
  marketer = await own.another();
  await marketer.driver.manage().deleteAllCookies();
  await marketer.driver.get(`${studio.base}${address.pathname}`);
  await marketer.sees("Mara Quill");
}, 180_000);
afterAll(() => own?.end());

const bandNamed = async (name: string): Promise<DocNode> =>
  (await studio.storedDocument(path)).root.children.find((band) => band.props.name === name)!;

it("whoever may change templates holds a band as it is, and lets another's text be written", async () => {
  await studio.go(path);
  await studio.composing();
  await studio.clickRow("Opening");
  await studio.sees("What others may change");
  await studio.click("Nothing", "button");
  await studio.clickRow("Two things");
  await studio.click("Text only", "button");
  await studio.saved();
  expect((await bandNamed("Opening")).props.hold).toBe("fixed");
  expect((await bandNamed("Two things")).props.hold).toBe("text");
}, 60_000);

it("refuses by mouse, by key, by paste and by replay, and says why", async () => {
  const before = await bandNamed("Opening");
  const why = "its template holds it as it is";
  await marketer.go(path);
  await marketer.composing();
  // By mouse.
  await marketer.clickRow("Opening");
  await marketer.sees("Its template holds it as it is.");
  expect(await marketer.pageText()).not.toContain("What others may change");
  expect(await serious(marketer, "what is held")).toEqual([]);
  await marketer.click("Delete", "button");
  await marketer.sees(why);
  // By key, on a block in it.
  const heading = [...walk(before)].find(({ type }) => type === "heading")!;
  await marketer.clickIn("wide", `[data-node="${heading.id}"]`);
  await marketer.chord(Key.DELETE);
  await marketer.sees(why);
  // By paste, as words in its text.
  await marketer.clickIn("wide", `[data-node="${heading.id}"]`, 2);
  await marketer.paste("wide", { "text/plain": "Something else" });
  // What was typed a moment ago goes from under the hands.
  await marketer.until("the text to be as before", async () => {
    return !(await marketer.sheetText("wide"))?.includes("Something else");
  });
  // By replay of an edit.
  const answer = await marketer.run<string>(
    `const change = { id: "x1", edit: { type: "remove", node: arguments[1] }, does: "do", step: "x1", of: null };
     return fetch(arguments[0] + "/edits", { method: "POST", headers: { "Content-Type": "application/json" },
       body: JSON.stringify({ tab: "replay", base: 0, changes: [change] }) }).then(async (answer) => answer.status + " " + await answer.text())`,
    path,
    heading.id,
  );
  expect(answer).toMatch(/^409 /);
  expect(await bandNamed("Opening")).toEqual(before);
}, 120_000);

it("lets words be written where the text is free", async () => {
  const before = await bandNamed("Two things");
  const text = [...walk(before)].find(({ type }) => type === "text")!;
  await marketer.clickIn("wide", `[data-node="${text.id}"]`, 2);
  await marketer.paste("wide", { "text/plain": "Written by Mara" });
  await marketer.chord(Key.ESCAPE);
  await marketer.saved();
  await marketer.sheetShows("wide", "Written by Mara");
  expect(JSON.stringify(await bandNamed("Two things"))).toContain("Written by Mara");
}, 60_000);
