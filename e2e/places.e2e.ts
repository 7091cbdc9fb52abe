/** The other places: desk, lists and searches, settings that reach new emails. */
import { fileURLToPath } from "node:url";
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { ownStudio } from "./own.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

const rows = () =>
  studio.run<string[]>("return [...document.querySelectorAll('tbody tr')].map(r => r.innerText)");

it("shows on the desk what is worked on, what goes out and what went out", async () => {
  await studio.go("/");
  await studio.sees("On the desk");
  await studio.sees("The gardeners’ notebook");
  const marked = await studio.run<number>(
    "return document.querySelectorAll('[aria-label=\"The next weeks\"] .sr-only').length",
  );
  expect(marked).toBeGreaterThan(0);
  // Whatever went out last, it leads to what came of it; and so does what went out before the last weeks.
  const last = await studio.find('[aria-label="Sent lately"] a');
  const name = await last.getText();
  await last.click();
  await studio.sees("What came of it");
  await studio.sees(name);
  await studio.go("/campaigns?state=sent&search=Seed list");
  await studio.click("Seed list for the season", "a");
  await studio.sees("What came of it");
  await studio.sees("See the list");
});

it("finds campaigns by name and state while one types", async () => {
  await studio.go("/campaigns");
  const search = await studio.find('input[name="search"]');
  await search.sendKeys("notebook");
  await studio.until("only the notebook", async () => {
    const found = await rows();
    return found.length === 1 && found[0]!.includes("The gardeners’ notebook");
  });
  await studio.run("arguments[0].focus()", search);
  await studio.selectAll();
  await studio.press("nothing is called that");
  await studio.sees("No matches");
  await studio.go("/campaigns?state=sent");
  await studio.until("only what was sent", async () => {
    const found = await rows();
    return found.length > 0 && found.every((row) => row.includes("sent"));
  });
});

it("finds people, down to the last of a long table", async () => {
  await studio.go("/people");
  await studio.sees("of all can be mailed");
  const total = await studio.run<number>(
    "return Number(document.querySelector('[role=grid]').getAttribute('aria-rowcount')) - 1",
  );
  expect(total).toBeGreaterThan(2_300);
  await studio.run("arguments[0].focus()", await studio.find('[data-cell="0:0"]'));
  await studio.chord(Key.CONTROL, Key.END);
  await studio.until("the last row", () =>
    studio.run(
      "return document.querySelector(arguments[0])?.innerText.includes('@')",
      `[aria-rowindex="${total + 1}"]`,
    ),
  );
  await (await studio.find('input[name="search"]')).sendKeys("amelie.garnier");
  await studio.sees("1 person in this view");
  await studio.sees("amelie.garnier@example.org");
});

it("carries a changed theme into new emails, a role of its own and one that follows", async () => {
  // The theme of new emails is everybody’s: others begin emails meanwhile.
  const own = await ownStudio();
  const { studio } = own;
  try {
    await studio.go("/library/themes");
    await studio.click("More about Larkmoor");
    await studio.click("Change");
    await studio.click("Roles that follow others", "summary");
    await studio.fill("Accent, light", "#8a1c4a");
    await studio.fill("Buttons, light", "#123abc");
    await studio.press(Key.TAB);
    await studio.sees("not saved");
    // Emptied, a role follows the other again.
    await studio.fill("Links, light", "#111111");
    await studio.press(Key.TAB);
    await (await studio.named("Links, light")).sendKeys(
      Key.chord(Key.CONTROL, "a"),
      Key.BACK_SPACE,
      Key.TAB,
    );
    await studio.until(
      "links to follow the accent",
      async () => (await (await studio.named("Links, light")).getAttribute("value")) === "#8a1c4a",
    );
    await studio.click("A font of your own for headings", "summary");
    const fonts = "@fontsource/hanken-grotesk/files/hanken-grotesk-latin-400-normal.woff2";
    const file = await studio.named("Another, from a file");
    await file.sendKeys(fileURLToPath(new URL("../package.json", import.meta.url)));
    await studio.sees("This is no font that can be read");
    await file.sendKeys(fileURLToPath(import.meta.resolve(fonts)));
    await studio.sees("is most like it");
    // Its dark partners are of its own hues, and come back as they were.
    const dark = async () => (await studio.named("Accent, dark")).getAttribute("value");
    const chosen = await dark();
    await studio.click("Colours of its own in dark mail programs", "label");
    await studio.click("Colours of its own in dark mail programs", "label");
    expect(await dark()).toBe(chosen);
    // Those of other light colours follow from these.
    await studio.click("Colours of its own in dark mail programs", "label");
    await studio.fill("Accent, light", "#1a4c8a");
    await studio.press(Key.TAB);
    await studio.click("Colours of its own in dark mail programs", "label");
    await studio.until("other dark colours", async () => (await dark()) !== chosen);
    await studio.fill("Spacing steps, px", "0, 12, 20");
    await studio.fill("Width of new emails, px", "640");
    await studio.press(Key.TAB);
    // Somebody else has it open, and is told when it has changed under their hands.
    const other = await own.another();
    await other.go("/library/themes/brand");
    await studio.click("Save the theme");
    await studio.sees("Kept");
    await other.fill("Accent, light", "#0a5c36");
    await other.press(Key.TAB);
    await other.click("Save the theme");
    await other.sees("in the meantime");
    // A page for readers loads the font itself.
    await studio.go("/people/preferences");
    const join = await studio.run<string>(
      "return /\\/join\\/[\\w-]+/.exec(document.documentElement.innerHTML)[0]",
    );
    await studio.go(join);
    await studio.until("the font on the page", () =>
      studio.run<boolean>(
        "return [...document.fonts].some((one) => one.family.includes('Hanken Grotesk') && one.status === 'loaded') && /^.?Hanken Grotesk/.test(getComputedStyle(document.querySelector('h1')).fontFamily)",
      ),
    );
    // The sheet shows what the steps do: Page Up goes to the next of them.
    await studio.newCampaign("In new colours");
    await studio.until("the width of the theme", () =>
      studio.run<boolean>("return document.querySelector('iframe').clientWidth === 640"),
    );
    const tray = await studio.find('[data-tray="button"]');
    await tray.sendKeys(Key.ENTER);
    await studio.sheetShows("wide", "Read more");
    const ground = await studio.run<string>(
      "return document.querySelector('iframe').contentDocument.querySelector('td[bgcolor=\"#123abc\"]')?.innerText",
    );
    expect(ground).toContain("Read more");
    await studio.clickRow("Button");
    const top = await studio.named("Top");
    await top.click();
    await studio.press(Key.PAGE_UP);
    expect(await top.getAttribute("value")).toBe("20");
    await studio.addBlock("Heading");
    await studio.sheetShows("wide", "A new heading");
    // The frame has loaded the font itself, and what stands in for it is named behind.
    await studio.until("the font to be loaded", () =>
      studio.run<boolean>(
        `const page = document.querySelector('iframe').contentDocument;
      const heading = page.querySelector('h1');
      return heading && [...page.fonts].some((one) => one.family.includes('Hanken Grotesk') && one.status === 'loaded')
        && /Hanken Grotesk.*(Arial|Trebuchet)/.test(page.defaultView.getComputedStyle(heading).fontFamily)`,
      ),
    );
  } finally {
    await own.end();
  }
}, 120_000);

it("renames a campaign, and asks for a name where there is none", async () => {
  await studio.newCampaign("Old name");
  await studio.click("Old name");
  const field = await studio.named("Name");
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), " ");
  await studio.click("Rename", "button");
  await studio.sees("Give it a name.");
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), "New name");
  await studio.click("Rename", "button");
  await studio.until(
    "the new name",
    async () =>
      (await studio.driver.findElements(By.xpath("//header//button[.='New name']"))).length > 0,
  );
  await studio.until(
    "the question to be gone",
    async () => (await studio.driver.findElements(By.css("[role=dialog]"))).length === 0,
  );
});

it("refuses a wrong password and keeps the address", async () => {
  const other = await Studio.open();
  try {
    await other.go("/sign-in");
    await other.fill("Email address", "nobody@larkmoor.example");
    await other.fill("Password", "not the password");
    await other.click("Sign in", "button");
    await other.sees("This address and password do not go together.");
    const email = await other.named("Email address");
    expect(await email.getAttribute("value")).toBe("nobody@larkmoor.example");
  } finally {
    await other.close();
  }
});
