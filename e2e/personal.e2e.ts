/** Personal content on its way: a derived sender, codes of a roll, and an email in the reader's language. */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { sendNow, toVolunteers } from "./sending.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

/** Writes the words of the only text block that has the given ones. */
async function write(selector: string, words: string): Promise<void> {
  await studio.clickIn("wide", selector, 2);
  await studio.selectAll();
  await studio.press(words);
  await studio.press(Key.ESCAPE);
  await studio.saved();
}

async function subject(words: string): Promise<void> {
  await (await studio.find('[data-order="envelope"]')).click();
  await (await studio.named("Subject")).click();
  await studio.press(words);
  await studio.saved();
}

/** Sends a campaign to the volunteers, now, and waits until it is out. */
async function send(campaign: string): Promise<void> {
  await toVolunteers(studio, campaign);
  await sendNow(studio, campaign);
  await studio.sees("It has been sent.", 60_000);
}

/** The sources of the messages with a subject, the latest first. */
async function sources(words: string, count: number): Promise<string[]> {
  await studio.go(`/outbox?search=${encodeURIComponent(words)}`);
  const ids = await studio.run<string[]>(
    `return [...document.querySelectorAll('a[href^="/outbox/"]')].map((a) => a.getAttribute('href').split('/').at(-1)).filter((id) => /^\\d+$/.test(id))`,
  );
  const found: string[] = [];
  for (const id of [...new Set(ids)].slice(0, count)) {
    found.push(
      await studio.driver.executeAsyncScript<string>(
        "const [path, done] = arguments; fetch(path).then((r) => r.text()).then(done)",
        `/outbox/${id}/message.eml`,
      ),
    );
  }
  return found;
}

it("sends from the person in charge of each reader's site, with a code for each from a roll", async () => {
  // A roll, filled by a pattern.
  await studio.go("/library/rolls");
  await studio.fill("A new roll", "Spring codes");
  await studio.click("Make it");
  await studio.sees("Add codes");
  await studio.fill("By a pattern", "SPR-####");
  await studio.click("Make codes");
  await studio.sees("The pattern is too short");
  await studio.fill("By a pattern", "SPR-####-@@@");
  await studio.fill("How many", "400");
  await studio.click("Make codes");
  await studio.sees("400 codes made.");

  // A derived sender.
  await studio.go("/library/derived/new");
  await studio.fill("Name", "The warden");
  await studio.choose("Kind of value", "A sender");
  await studio.click("Case");
  await studio.click("Write the rule");
  await studio.click("Condition", "button");
  await (await studio.named("What the condition is about", "input")).sendKeys(
    "Nearest site",
    Key.ENTER,
  );
  await studio.choose("Nearest site: comparison", "has a value");
  await studio.click("Use this rule");
  await studio.choose("Case 1: name: put in a merge tag", "Nearest site › Manager");
  await studio.choose(
    "Case 1: mail address: put in a merge tag",
    "Nearest site › Manager › Mail address",
  );
  await studio.fill("Everybody else: name", "Larkmoor");
  await studio.fill("Everybody else: mail address", "nobody");
  await studio.sees("bastien@larkmoor.example");
  await studio.click("Save the derived tag");
  await studio.sees("This is not a mail address.");
  await studio.fill("Everybody else: mail address", "news@larkmoor.example");
  await studio.click("Save the derived tag");
  await studio.sees("New derived tag");
  await studio.sees("The warden");

  const campaign = await studio.newCampaign("A code for each");
  await subject("Yours alone");
  await studio.choose("Sender", "The warden");
  await studio.saved();
  await studio.sees("Bastien Verger");
  await studio.clickRow("Footer");
  await studio.addBlock("Coupon");
  await studio.clickRow("Coupon");
  const code = await studio.named("Code");
  await code.click();
  await studio.selectAll();
  await studio.press("{");
  await studio.find("[cmdk-input]");
  await studio.press("Spring codes");
  await studio.until("the roll to be found", () =>
    studio.run(
      "return document.querySelector('[cmdk-item][data-selected=true]')?.innerText.startsWith('Spring codes')",
    ),
  );
  await studio.press(Key.ENTER);
  await studio.saved();
  await studio.sheetShows("wide", "SAMPLE-CODE");
  // What it came with is only an example.
  for (const [field, words] of [
    ["Title", "For your next visit"],
    ["Terms", "Once, this spring."],
  ] as const) {
    await (await studio.named(field)).click();
    await studio.selectAll();
    await studio.press(words);
    await studio.saved();
  }

  // A test shows a sample and takes none.
  await studio.go(`${campaign}/proof`);
  await studio.fill("Send a test to", "codes@larkmoor.example");
  await studio.click("Send the test");
  await studio.sees("test is out");
  const [test] = await sources("codes@larkmoor.example", 1);
  expect(test).toContain("SAMPLE-CODE");
  expect(test).toMatch(/^From: "?Bastien Verger"? <bastien@larkmoor\.example>/m);

  await send(campaign);
  const messages = await sources("Yours alone", 20);
  const real = messages.filter((source) => !source.includes("SAMPLE-CODE"));
  expect(real.length).toBeGreaterThan(5);
  const codes = real.map((source) => /SPR-\d{4}-[A-Z]{3}/.exec(source)?.[0]);
  expect(codes).not.toContain(undefined);
  expect(new Set(codes).size).toBe(codes.length);
  const senders = new Set(real.map((source) => /^From: .*<(.+)>/m.exec(source)![1]));
  for (const sender of senders) expect(sender).toMatch(/^(bastien|tamsin)@larkmoor\.example$/);
  await studio.go("/library/rolls");
  await studio.click("Spring codes", "a");
  await studio.sees("A code for each");
});

it("writes an email in French beside the English, and each reader gets theirs", async () => {
  const campaign = await studio.newCampaign("Two languages");
  await studio.addBlock("Text");
  await write('div[data-text="words"]', "Good morning, gardeners");
  await subject("The news");
  const root = await studio.inSheet<string>(
    "wide",
    "return page.querySelector('[role=article]').dataset.node",
  );
  await studio.go(`${campaign}?at=${root}`);
  await studio.composing();
  await studio.choose("Another language", "French");
  await studio.saved();
  await studio.click("Translate");
  await studio.sees("texts translated");
  for (const [label, words] of [
    ["Envelope · Subject in French", "Les nouvelles"],
    ["Text in French", "Bonjour, jardiniers"],
  ] as const) {
    await (await studio.named(label)).click();
    await studio.selectAll();
    await studio.press(words);
  }
  await studio.saved();
  await studio.click("Close");
  // Amélie reads French; the footer's own words come from the catalogue.
  await studio.sheetShows("wide", "Bonjour, jardiniers");
  await studio.sheetShows("narrow", "Se désabonner");
  await studio.sees("Les nouvelles");
  await studio.choose("Language of the sheets", "British English");
  await studio.sheetShows("wide", "Good morning, gardeners");
  // The original changes: the translation is to be looked at again.
  await write('div[data-text="words"]', "Good evening, gardeners");
  await studio.go(`${campaign}?at=${root}`);
  await studio.composing();
  await studio.click("Translate");
  await studio.sees("the original has changed");
  await studio.click("It still fits");
  await studio.saved();
  await studio.click("Close");

  await send(campaign);
  const french = await sources("Les nouvelles", 1);
  expect(french[0]).toContain("Bonjour, jardiniers");
  expect(french[0]).toMatch(/lang=3D"fr"|lang="fr"/);
  const english = await sources("The news", 1);
  expect(english[0]).toContain("Good evening, gardeners");
});

it("shows words with marks and a picture that a derived tag chooses for each reader", async () => {
  await studio.go("/library/derived/new");
  await studio.fill("Name", "A bold thank you");
  await studio.choose("Kind of value", "Text with marks and links");
  const words = await studio.named("Everybody else: words");
  await words.click();
  await words.sendKeys("Thank you, friends");
  await studio.selectAll();
  const bold = () =>
    studio.run<boolean>("return document.querySelector('[role=textbox] strong') !== null");
  await studio.click("Bold");
  expect(await bold()).toBe(true);
  await studio.chord(Key.CONTROL, "z");
  expect(await bold()).toBe(false);
  await studio.chord(Key.CONTROL, "y");
  expect(await bold()).toBe(true);
  await studio.click("Save the derived tag");
  await studio.sees("New derived tag");

  await studio.newCampaign("Chosen for each");
  await studio.addBlock("Image");
  // One that the demo's library has: members see another than everybody else.
  await studio.choose("Or chosen for each reader by", "A view for members");
  await studio.saved();
  await studio.addBlock("Text");
  await studio.clickIn("wide", "[data-text=words]", 2);
  await studio.selectAll();
  await studio.press("So: {");
  await studio.find("[cmdk-input]");
  await studio.press("A bold");
  await studio.until("the tag to be found", () =>
    studio.run(
      "return document.querySelector('[cmdk-item][data-selected=true]')?.innerText.startsWith('A bold')",
    ),
  );
  await studio.press(Key.ENTER);
  await studio.click("Put it in");
  await studio.press(Key.ESCAPE);
  await studio.saved();
  await studio.until("the bold words", () =>
    studio.inSheet(
      "wide",
      "return [...page.querySelectorAll('strong')].some((one) => one.textContent === 'Thank you, friends')",
    ),
  );
  const picture = () =>
    studio.inSheet<string[]>(
      "wide",
      "return [...page.querySelectorAll('img')].map((one) => one.alt).filter(Boolean)",
    );
  // The first contact is a Friend; somebody who is none sees the other picture.
  expect(await picture()).toEqual(["The glasshouse before opening time"]);
  for (let i = 0; i < 8 && (await picture())[0]?.startsWith("The glasshouse"); i++) {
    const before = await (await studio.find("[data-reading-as]")).getText();
    await studio.click("Next contact");
    await studio.until(
      "the next contact",
      async () => (await (await studio.find("[data-reading-as]")).getText()) !== before,
    );
  }
  await studio.until(
    "the other picture",
    async () => (await picture())[0] === "The path along the brook",
  );
  expect(await picture()).toHaveLength(1);
});
