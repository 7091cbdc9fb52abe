/** The proof: every version walked, as families of mail programs show it, and what has been looked at. */
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { serious } from "./axe.ts";
import { type OwnStudio, ownStudio } from "./own.ts";
import type { Studio } from "./studio.ts";

// An application of its own: what others send and change meanwhile would change who gets what.
let own: OwnStudio;
let studio: Studio;
beforeAll(async () => {
  own = await ownStudio();
  ({ studio } = own);
});
afterAll(() => own?.end());

/** Two conditions, so that there are four versions; readers who stand still. */
const DECEMBER = "Earlier campaign: December at Larkmoor";
const rows = () =>
  studio.run<string[]>(
    "return [...document.querySelectorAll('main article')].map((one) => one.getAttribute('aria-label'))",
  );
/** The words in the frame with this title, once it has some. */
const inFrame = (title: string) =>
  studio.run<string>(
    "return [...document.querySelectorAll('iframe')].find((one) => one.title.startsWith(arguments[0]))?.contentDocument.body?.innerText ?? ''",
    title,
  );

it("walks the versions of an email on the wall, until all there is to see has been looked at", async () => {
  const path = await studio.newCampaign("Walked", DECEMBER);
  await studio.go(`${path}/proof`);
  await studio.sees("4 versions, ");
  await studio.sees("nobody has looked at any in this state");
  await studio.until("the first row", async () => (await rows()).length >= 2);
  expect((await rows())[0]).toMatch(/^[\d,]+ readers, the most frequent$/);
  await studio.until("the email in it", async () =>
    (await inFrame("Wide:")).includes("early flowers"),
  );

  // Only those that hold what is searched for.
  await studio.fill("Search versions", "without");
  await studio.until("fewer rows", async () =>
    (await rows()).every((row) => row.includes("without")),
  );
  await studio.fill("Search versions", "nothing of it");
  await studio.sees("No matches.");
  await studio.fill("Search versions", "");
  await studio.press(Key.TAB);

  // Each of the smallest set, looked at for a moment.
  await studio.click("Look through them");
  await studio.until("a version, close", async () =>
    (await inFrame("Wide")).includes("early flowers"),
  );
  const counts = () =>
    studio.until("that it counts as looked at", () =>
      studio.run("return document.querySelector('main input[type=checkbox]')?.checked"),
    );
  await studio.sees("1 of 4");
  await counts();
  expect(await serious(studio, "a version")).toEqual([]);
  await studio.click("Next not looked at (1 left)");
  await studio.until("the next version", async () => (await studio.pageText()).includes("4 of 4"));
  await counts();
  await studio.click("All versions", "a");
  await studio.sees("Everything there is to see has been looked at in this state.");

  // A word changed in the email, and it is another state.
  await studio.go(path);
  await studio.composing();
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.press("Oh. ");
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.go(`${path}/proof`);
  await studio.sees("nobody has looked at any in this state");
});

it("shows a version as families of mail programs do, and says what is lost", async () => {
  const path = await studio.newCampaign("In families", DECEMBER);
  await studio.go(`${path}/proof?reader=12`);
  await studio.sees("As its readers get it");
  await studio.choose("As shown by", "Images off");
  await studio.sees("Lost here: images");
  const sources = await studio.run<string[]>(
    "return [...document.querySelector('iframe[title=Wide]').contentDocument.images].map((one) => one.getAttribute('src'))",
  );
  expect(new Set(sources)).toEqual(new Set(["data:,"]));
  await studio.choose("As shown by", "Forced dark");
  await studio.until("dark grounds", async () => {
    const ground = await studio.run<string>(
      "const page = document.querySelector('iframe[title=Narrow]').contentDocument; return getComputedStyle(page.body).backgroundColor",
    );
    const [red] = /\d+/.exec(ground) ?? ["255"];
    return Number(red) < 60;
  });
  await studio.choose("As shown by", "Read aloud");
  await studio.sees("heading 1");
  await studio.choose("As shown by", "As sent");
  await studio.choose("Width", "414 px, large phone");
  await studio.until("a sheet of that width", async () =>
    studio.run<boolean>("return document.querySelector('iframe[title=\"At 414 px\"]') !== null"),
  );
  const [box] = await studio.driver.findElements(By.css('iframe[title="At 414 px"]'));
  expect((await box!.getRect()).width).toBe(414);
});

it("shows what somebody else changes meanwhile, and what was looked at counts no more", async () => {
  const path = await studio.newCampaign("Followed", DECEMBER);
  await studio.go(`${path}/proof`);
  await studio.click("Look through them");
  await studio.until("that it counts as looked at", () =>
    studio.run("return document.querySelector('main input[type=checkbox]')?.checked"),
  );
  await studio.click("All versions", "a");
  await studio.sees("1 has not been looked at in this state.");
  expect(await serious(studio, "wall")).toEqual([]);
  const other = await own.another();
  await other.go(path);
  await other.composing();
  await other.clickIn("wide", 'div[data-text="words"]', 2);
  await other.press(Key.END);
  await other.press(" Come and see.", Key.ESCAPE);
  await other.saved();
  await studio.until("the other's words", async () =>
    (await inFrame("Wide:")).includes("Come and see."),
  );
  await studio.sees("nobody has looked at any in this state");
});

it("mends what a check has found, from the proof and while composing", async () => {
  const path = await studio.newCampaign("A wrong day");
  await studio.addBlock("Text");
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.selectAll();
  await studio.press("See you on Friday 16 May 2026, at the the gaate of Larkmoor, gloamingly.");
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.go(`${path}/proof`);
  await studio.sees("“Friday 16 May 2026” is a Saturday");
  await studio.sees("Stops the send.");
  await studio.click("Make it Saturday");
  await studio.sees("Done: Make it Saturday");
  await studio.until("the finding to be gone", async () => {
    const text = await studio.pageText();
    return text.includes("See you on Saturday") || !text.includes("is a Saturday");
  });
  // A misspelled word is another one, or one of our own.
  await studio.sees("“gaate” is not in the dictionary");
  await studio.click("gate");
  await studio.sees("Done: gate");
  await studio.sees("“gloamingly” is not in the dictionary");
  await studio.click("It is right");
  await studio.sees("“gloamingly” is one of our words");
  await studio.until(
    "the word to be known",
    async () => !(await studio.pageText()).includes("is not in the dictionary"),
  );
  // While composing the same is mended at the block, and taken back as any step.
  await studio.go(path);
  await studio.composing();
  await studio.sheetShows("wide", "Saturday 16 May 2026, at the the gate");
  await studio.clickRow("Text");
  await studio.sees("“the the” stands there");
  await studio.click("Make it “the”");
  await studio.sheetShows("wide", "at the gate");
  await studio.click("Undo");
  await studio.sheetShows("wide", "at the the gate");
  // What is misspelled now is told now, and can be taken as right here too.
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  await studio.press(Key.END);
  await studio.press(" Bring a tourch.", Key.ESCAPE);
  await studio.saved();
  await studio.clickRow("Text");
  await studio.sees("“tourch” is not in the dictionary");
  await studio.click("It is right");
  await studio.sees("“tourch” is one of our words");
  await studio.until(
    "the word to be known",
    async () => !(await studio.pageText()).includes("is not in the dictionary"),
  );
});

it("shows all links in one table, and changes an address everywhere", async () => {
  const path = await studio.newCampaign("Many ways", "Template: Calm newsletter");
  await studio.addBlock("Button");
  const put = async (address: string) => {
    await studio.fill("Address", address);
    await studio.press(Key.TAB);
    await studio.saved();
  };
  await put("https://larkmoor.example/old");
  await studio.addBlock("Button");
  await put("https://larkmoor.example/old");
  await studio.go(`${path}/proof?links=1`);
  await studio.sees("Leads to");
  expect(await serious(studio, "links")).toEqual([]);
  const field = await studio.driver.findElement(
    By.css('input[value="https://larkmoor.example/old"]'),
  );
  await field.click();
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), "larkmoor.example/new page");
  await studio.click("Change 2");
  await studio.sees("An address has no spaces");
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), "larkmoor.example/new");
  await studio.click("Change 2");
  await studio.sees("Changed in 2 places");
  await studio.until("the new address", async () => {
    const fields = await studio.driver.findElements(
      By.css('input[value="https://larkmoor.example/new"]'),
    );
    return fields.length === 1;
  });

  // What is added to every address: named in the settings, and said otherwise here.
  await studio.sees("Addresses have no campaign parameters.");
  await studio.go("/settings");
  await studio.fill("Parameter 1", "two words");
  await studio.click("Save the parameters");
  await studio.sees("A letter, then letters, digits");
  await studio.fill("Parameter 1", "source");
  await studio.click("Save the parameters");
  await studio.sees("Parameter 2");
  await studio.go(`${path}/proof?links=1`);
  await studio.sees("Added to every address");
  const template = () =>
    studio.run<string>(
      "return fetch(arguments[0]).then((answer) => answer.text())",
      `${path}/export/html?tags=yes`,
    );
  expect(await template()).toContain("larkmoor.example/new?source={{");
  await studio.fill("What source says", "flyer");
  await studio.click("Change", "button");
  await studio.sees("The parameter is changed");
  expect(await template()).toContain("larkmoor.example/new?source=flyer");
  await studio.click("Leave it out", "label");
  await studio.until("it to be left out", async () => !(await template()).includes("source="));
});

it("sends a test to a group as each reader of the smallest set, and tells who opened it", async () => {
  const path = await studio.newCampaign("Tested", DECEMBER);
  await studio.go(`${path}/proof`);
  // What the checks say stands above.
  await studio.sees("An image has no alt text");
  await studio.fill("Send a test to", "ines@team.example, otto@team.example");
  await studio.click("Keep as a group…");
  await studio.fill("Name of the group", "The garden team");
  await studio.click("Keep the group", "button");
  await studio.sees("“The garden team” is kept");
  await studio.fill("Send a test to", "");
  await studio.choose("Group", "The garden team");
  await studio.choose("Filled in as", "each version: 4 readers");
  await studio.fill("A note on top", "Is the gate right?");
  await studio.click("With a table of what was filled in", "label");
  await studio.click("Send the test");
  await studio.sees("8 tests are out");
  await studio.sees("8 messages, as 4 readers · 0 opened");

  await studio.go("/outbox?search=otto@team.example");
  await studio.driver.findElement(By.partialLinkText("[Test 3 of 4]")).click();
  await studio.driver.switchTo().frame(await studio.find("iframe"));
  await studio.until("the note and the table", async () => {
    const text = await studio.pageText();
    return text.includes("Is the gate right?") && text.includes("Filled in");
  });
  await studio.driver.switchTo().defaultContent();
  const source = await studio.run<string>(
    "return fetch(location.pathname + '/html').then((answer) => answer.text())",
  );
  const pixel = /\/o\/t[^"]+\.gif/.exec(source)![0];
  await studio.run("return fetch(arguments[0]).then((answer) => answer.status)", pixel);
  await studio.go(`${path}/proof`);
  await studio.sees("8 messages, as 4 readers · 1 opened");

  // As readers that were picked, one after the other.
  await studio.click("Pick Amélie Garnier for tests");
  await studio.click("Next contact");
  await studio.until("another reader", async () =>
    (await studio.pageText()).includes("Picked: Amélie Garnier."),
  );
  await studio.until("the next reader", async () =>
    studio.run<boolean>("return location.search.includes('reader=')"),
  );
  await studio.until("to pick them", async () =>
    studio.run<boolean>(
      "const one = [...document.querySelectorAll('button')].find((b) => /^Pick .+ for tests$/.test(b.textContent) && !b.textContent.includes('Amélie Garnier')); one?.click(); return Boolean(one)",
    ),
  );
  await studio.fill("Send a test to", "ines@team.example");
  await studio.click("Send the test");
  await studio.sees("2 tests are out");
  await studio.sees("2 messages, as 2 readers · 0 opened");
});
