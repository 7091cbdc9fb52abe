/** What makes a workbench of it: campaigns grouped and put aside, and nothing lost by accident. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const rows = () =>
  studio.run<string[]>("return [...document.querySelectorAll('tbody tr')].map(r => r.innerText)");
const names = (part: string) => rows().then((all) => all.filter((row) => row.includes(part)));

async function more(campaign: string, item: string): Promise<void> {
  await studio.click(`More about ${campaign}`);
  await studio.click(item);
}

it("campaigns get labels, are found by them, put aside, deleted and put back", async () => {
  for (const name of ["Maytime one", "Maytime two"]) await studio.newCampaign(name);
  await studio.go("/campaigns?search=Maytime");
  for (const name of ["Maytime one", "Maytime two"]) {
    await more(name, "Labels…");
    await studio.fill("Labels", "Orchard, Fair");
    await studio.press(Key.ENTER);
    await studio.until(`labels on ${name}`, async () => {
      const [row] = await names(name);
      return row?.includes("Orchard") && row.includes("Fair");
    });
  }
  await studio.click("Orchard", "a");
  await studio.until("those with the label alone", async () => (await rows()).length === 2);

  await more("Maytime two", "Archive");
  await studio.until("one that is left", async () => (await rows()).length === 1);
  await studio.go("/campaigns?archived=yes");
  await more("Maytime two", "Take out of the archive");
  await studio.until("it to be gone from there", async () => (await names("Maytime")).length === 0);

  await studio.go("/campaigns?search=Maytime");
  await more("Maytime one", "Delete");
  await studio.sees("The campaign “Maytime one” has been deleted.");
  await studio.until("the other alone", async () => (await rows()).length === 1);
  await studio.click("Undo", "button");
  await studio.sees("The campaign “Maytime one” is back.");
  await studio.until("both", async () => (await rows()).length === 2);
  // The message is told once: the address does not tell it again.
  expect(await studio.driver.getCurrentUrl()).not.toContain("removed=");
});

it("a list that was deleted comes back with its people", async () => {
  await studio.go("/people/lists");
  await studio.fill("A new list", "Spring walkers");
  await studio.click("Add the list", "button");
  await studio.sees("0 people");
  await studio.go("/people?search=amelie.garnier");
  await studio.sees("1 person in this view");
  await studio.choose("Add everybody in this view to a list", "Spring walkers");
  await studio.click("Add all 1", "button");
  await studio.sees("put on the list");
  await studio.go("/people/lists");
  const walkers = "//li[.//input[@aria-label='The name of Spring walkers']]";
  const inRow = (path: string) => studio.driver.findElement(By.xpath(`${walkers}${path}`));
  const count = () => inRow("//a").getText();
  await studio.until("one on the list", async () => (await count()) === "1 person");
  await inRow("//button[.='Delete']").click();
  await studio.sees("The list “Spring walkers” has been deleted.");
  await studio.click("Undo", "button");
  await studio.sees("The list “Spring walkers” is back.");
  await studio.until("its people", async () => (await count()) === "1 person");
});

it("a record that was deleted comes back with those who point to it", async () => {
  const person = "/people/contacts/9";
  await studio.go("/people/records/sites");
  await studio.fill("Name", "Fern House");
  await studio.click("Add the record", "button");
  await studio.until("the record", async () => (await names("Fern House")).length === 1);
  await studio.go(person);
  await studio.choose("Nearest site · a record", "Fern House");
  await studio.click("Save", "button");
  await studio.sees("Saved.");
  await studio.go("/people/records/sites");
  await studio.click("Fern House", "a");
  await studio.click("Delete the record", "button");
  await studio.sees("The record “Fern House” has been deleted.");
  expect(await names("Fern House")).toEqual([]);
  await studio.click("Undo", "button");
  await studio.sees("The record “Fern House” is back.");
  await studio.until("it to be listed", async () => (await names("Fern House")).length === 1);
  await studio.go(person);
  await studio.sees("Fern House");
});

it("a part that cannot be loaded leaves the rest standing", async () => {
  await studio.go("/people/records/nowhere");
  await studio.sees("There is nothing here");
  await studio.click("Segments", "a");
  await studio.sees("People found by a rule");
});

it("on a phone everything is read, and the words of an email are changed", async () => {
  const path = await studio.newCampaign("On the way", "Earlier campaign: Seed list");
  await studio.window(390, 780);
  try {
    for (const page of ["/", "/results", `${path}/proof`]) {
      await studio.go(page);
      expect({
        page,
        wide: await studio.run("return document.documentElement.scrollWidth"),
      }).toEqual({ page, wide: 390 });
    }
    await studio.go(path);
    await studio.sheetShows("narrow", "See the list");
    expect(await studio.run("return document.querySelectorAll('[data-pane=wide]').length")).toBe(0);
    await studio.clickIn("narrow", "h1[data-text], h2[data-text]", 2);
    await studio.selectAll();
    await studio.press("Seeds from a train", Key.ESCAPE);
    await studio.sheetShows("narrow", "Seeds from a train");
    await studio.saved();
    // At the width of a small laptop nothing of the composer is out of reach.
    await studio.window(1024, 720);
    await studio.go(path);
    await studio.composing();
    expect(await studio.run("return document.documentElement.scrollWidth")).toBe(1024);
  } finally {
    await studio.window();
  }
});

it("a day is written as people write it, or chosen from a calendar, in English and in French", async () => {
  const path = await studio.newCampaign("On a day", "Earlier campaign: Seed list");
  await studio.go(`${path}/schedule`);
  await studio.fill("Day", "30/3/2031");
  await studio.sees("Sunday 30 March 2031");
  await studio.fill("Time", "9");
  await studio.click("Choose the day from a calendar");
  await studio.find(".calendar thead th");
  const heads = () =>
    studio.run<string[]>(
      "return [...document.querySelectorAll('.calendar thead th')].map((th) => th.innerText)",
    );
  expect((await heads())[0]).toMatch(/^Mo/);
  // With the keys: from the chosen day one on, past the end of the week.
  await studio.press(Key.ARROW_RIGHT, Key.ENTER);
  await studio.sees("Monday 31 March 2031");
  await studio.fill("Day", "31/4/2031");
  await studio.click("Schedule it");
  await (await studio.find("aside button[type=submit]")).click();
  await studio.sees("Write a day, for example 30/03/2031.");
  expect(await (await studio.named("Day")).getAttribute("value")).toBe("31/4/2031");

  await studio.go("/settings");
  await studio.choose("Dates are written in", "French");
  await studio.click("Save the sender", "button");
  await studio.sees("Saved");
  try {
    await studio.go(`${path}/schedule`);
    await studio.fill("Day", "30/3/2031");
    await studio.sees("dimanche 30 mars 2031");
    await studio.click("Choose the day from a calendar");
    await studio.find(".calendar thead th");
    await studio.sees("mars 2031");
  } finally {
    await studio.go("/settings");
    await studio.choose("Dates are written in", "English");
    await studio.click("Save the sender", "button");
    await studio.sees("Saved");
  }
});

it("a third sheet shows the email in the dark, as plain text, or as another reader gets it", async () => {
  await studio.window(1920, 1080);
  try {
    await studio.go("/campaigns?search=larkmoor");
    await (await studio.find("main a[href^='/campaigns/']")).click();
    await studio.composing();
    // There is room for the whole tray.
    const [all, seen] = await studio.run<[number, number]>(
      "const { scrollWidth, clientWidth } = document.querySelector('[aria-label=Tray]'); return [scrollWidth, clientWidth]",
    );
    expect(all).toBe(seen);
    await studio.click("A third sheet");
    const third = (script: string) =>
      studio.run<string>(
        `const page = document.querySelector("[aria-label='Third sheet'] iframe")?.contentDocument; return page?.body ? ${script} : ''`,
      );
    await studio.until("the email on the third sheet", async () =>
      (await third("page.body.innerText")).includes("Dear Amélie"),
    );
    expect(await third("page.defaultView.matchMedia('(prefers-color-scheme: dark)').matches")).toBe(
      true,
    );
    await studio.choose("What the third sheet shows", "Another reader");
    const search = await studio.named("nobody", "button");
    await search.click();
    await studio.press("ada.ashdown", Key.ENTER);
    await studio.until("the email of another", async () =>
      (await third("page.body.innerText")).includes("Dear Ada"),
    );
    expect(await studio.sheetText("wide")).toContain("Dear Amélie");
    await studio.choose("What the third sheet shows", "Plain text");
    await studio.until("the plain text", () =>
      studio.run(
        "return document.querySelector(\"[aria-label='Third sheet'] pre\")?.innerText.includes('Dear Amélie')",
      ),
    );
  } finally {
    await studio.window();
  }
});

it("a stroke with Shift picks all people between", async () => {
  await studio.go("/people");
  await studio.find("[data-cell='12:0']");
  const box = (row: number) =>
    studio.find(`[role=row][aria-rowindex='${row + 2}'] input[type=checkbox]`);
  await (await box(1)).click();
  await studio.sees("1 person selected");
  await studio.driver
    .actions()
    .keyDown(Key.SHIFT)
    .click(await box(9))
    .keyUp(Key.SHIFT)
    .perform();
  await studio.sees("9 people selected");
});
