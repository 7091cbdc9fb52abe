/** Who sees what: alternatives, words for some, and readers through whose eyes each is seen. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

/** Writes a rule of one condition in the dialog that is open, and takes it. */
async function rule(field: string, value: string, use: string): Promise<void> {
  await studio.click("Condition", "button");
  await (await studio.named("What the condition is about", "input")).sendKeys(field, Key.ENTER);
  await studio.choose(`${field}: value`, value);
  await studio.click(use);
}

/** Replaces the words of a text block on the wide sheet. */
async function write(words: string, at: number): Promise<void> {
  await studio.inSheet(
    "wide",
    `page.querySelectorAll('.at-test').forEach((e) => e.classList.remove('at-test'));
     [...page.querySelectorAll('div[data-text="words"]')][args[0]].classList.add('at-test')`,
    at,
  );
  await studio.clickIn("wide", ".at-test", 2);
  await studio.selectAll();
  await studio.press(words);
  await studio.press(Key.ESCAPE);
  await studio.saved();
}
const reaches = () =>
  studio.run<string[]>(
    "return [...document.querySelectorAll('[data-alternative-reach]')].map((e) => e.textContent)",
  );
const number = (text: string) => Number(text.replaceAll(",", ""));

/** Asks for somebody by the answers to each part, and reads as that person. */
async function readAsSomeone(answers: Record<string, string>): Promise<void> {
  await studio.click("Find someone who sees…");
  for (const [part, answer] of Object.entries(answers)) {
    await studio.choose(`${part}: does this person see it`, answer);
  }
  await studio.click("Read as one of them");
  await studio.until("the list to close", () =>
    studio.run("return document.querySelector('[aria-label=\"Find someone who sees\"]') === null"),
  );
}

it("makes a chain of three alternatives on the sheet, and reads it as three people", async () => {
  const campaign = await studio.newCampaign("Three of a kind");
  await studio.addBlock("Text");
  await write("Dear Patron", 0);
  await studio.clickRow("Text");
  await studio.click("Only some readers…");
  await rule("Membership", "Patron", "Show it to them");
  await studio.saved();
  // The reader is no Patron.
  await studio.until(
    "the text to be gone",
    async () => !(await studio.sheetText("wide"))?.includes("Dear Patron"),
  );
  await studio.click("Show all that only some readers see");
  await studio.sheetShows("wide", "Dear Patron");

  await studio.click("Others see instead…");
  await studio.until("two alternatives", async () => (await reaches()).length === 2);
  await write("Dear Friend", 1);
  await studio.click("Only some readers…");
  await rule("Membership", "Friend", "Show it to them");
  await studio.sees("see none of them");
  await studio.click("Another alternative");
  await studio.until("three alternatives", async () => (await reaches()).length === 3);
  await write("Dear visitor", 2);
  await studio.saved();
  await studio.until("their reach", async () =>
    (await reaches()).every((text) => number(text) > 0),
  );
  const each = (await reaches()).map(number);
  const all = await studio.run<string>("return document.querySelector('[data-reach]').textContent");
  expect(each.reduce((sum, n) => sum + n)).toBe(number(/of ([\d,]+)/.exec(all)![1]!));
  expect(await studio.pageText()).not.toContain("see none of them");
  // Stacked, each with its mark.
  for (const words of ["Dear Patron", "Dear Friend", "Dear visitor"]) {
    await studio.sheetShows("narrow", words);
  }
  expect(
    await studio.run(
      "return document.querySelectorAll('[aria-label=\"Wide sheet\"] [data-for-some]').length",
    ),
  ).toBe(3);
  await studio.click("Show all that only some readers see");

  // The parts are called alike; the first select is the first alternative.
  const seen: string[] = [];
  for (const i of [0, 1, 2]) {
    await studio.click("Find someone who sees…");
    const answers = "[aria-label='Find someone who sees'] [role=combobox]";
    await studio.find(answers);
    await (await studio.driver.findElements(By.css(answers)))[i]!.click();
    await studio.chooseOpened("sees it");
    await studio.click("Read as one of them");
    const words = ["Dear Patron", "Dear Friend", "Dear visitor"][i]!;
    await studio.sheetShows("wide", words);
    await studio.sheetShows("narrow", words);
    seen.push((await studio.sheetText("wide"))!.match(/Dear \w+/g)!.join(", "));
  }
  expect(seen).toEqual(["Dear Patron", "Dear Friend", "Dear visitor"]);
  // Kept: the same after a reload.
  await studio.go(campaign);
  await studio.composing();
  await studio.clickRow("Text");
  await studio.until("the reach again", async () => (await reaches()).length === 3);
});

it("shows words within a text to some, other words to the rest, and finds who sees which", async () => {
  await studio.newCampaign("A word for some");
  await studio.addBlock("Text");
  await write("Good day, see you soon", 0);
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.driver.sleep(500);
  await studio.press(Key.HOME);
  for (let i = 0; i < "Good day".length; i++) await studio.chord(Key.SHIFT, Key.ARROW_RIGHT);
  await studio.click("Who sees this text");
  await studio.click("Only some see them…");
  await rule("Language", "French", "Show the text to them");
  await studio.click("Who sees this text");
  await studio.click("Other words for the rest…");
  await studio.press("Good morning");
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await readAsSomeone({ "“Good day”": "sees it" });
  await studio.sheetShows("wide", "Good day, see you soon");
  expect(await studio.sheetText("wide")).not.toContain("Good morning");
  await readAsSomeone({ "“Good morning”": "sees it", "“Good day”": "does not" });
  await studio.sheetShows("wide", "Good morning, see you soon");
  await studio.sheetShows("narrow", "Good morning, see you soon");
});

it("plain text by hand has other words for some, which they alone get", async () => {
  const campaign = await studio.newCampaign("By hand for some");
  await studio.addBlock("Heading");
  await studio.click("Write it by hand");
  const write = async (label: string, words: string) => {
    const field = await studio.named(label, "textarea");
    await field.click();
    await field.sendKeys(Key.chord(Key.CONTROL, "a"), words, Key.TAB);
    await studio.saved();
  };
  await write("Written by hand", "GOOD DAY, EVERYBODY");
  await studio.click("Another text for some…");
  await rule("Language", "French", "Show it to them");
  await studio.saved();
  await studio.named("For everybody else", "textarea");
  await write("For: Language is “French”", "GOOD DAY, FRANCE");
  // The words are found by who reads them, as any words for some are.
  await readAsSomeone({ "“GOOD DAY, FRANCE”": "sees it" });
  await studio.go(`${campaign}/readers`);
  await studio.sees("“GOOD DAY, FRANCE”");
  await studio.go(campaign);
  await studio.composing();
  await studio.clickRow("A new heading");
  await studio.named("For everybody else", "textarea");
  await studio.click("Take this text away");
  await studio.saved();
  const left = await studio.named("Written by hand", "textarea");
  expect(await left.getAttribute("value")).toBe("GOOD DAY, EVERYBODY");
});
