/** People: who they are, found by rules, brought in by files, and gone when they ask. */
import { mkdtemp, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { By, Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { Studio } from "./studio.ts";

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio.close());

const reach = async (): Promise<number> =>
  Number(
    (await studio.run<string>("return document.querySelector('[data-reach]')?.textContent ?? ''"))
      .replaceAll(",", "")
      .trim() || "NaN",
  );
/** Everybody a rule catches, those suppressed among them: sends of other tests suppress people meanwhile. */
const caught = async (): Promise<number> =>
  Number(
    /With those suppressed: ([\d,]+) people/
      .exec(await studio.pageText())?.[1]
      ?.replaceAll(",", "") ?? "NaN",
  );
const words = () =>
  studio.run<string>("return document.querySelector('[data-words]')?.textContent ?? ''");

async function addCondition(subject: string): Promise<void> {
  const buttons = await studio.driver.findElements(
    By.xpath("//button[normalize-space(.)='Condition']"),
  );
  await buttons.at(-1)!.click();
  await (await studio.named("What the condition is about", "input")).sendKeys(subject, Key.ENTER);
}

it("takes in a file: columns mapped, rows refused, looked at, and all of it taken back", async () => {
  const folder = await mkdtemp(join(tmpdir(), "septima-e2e-"));
  const file = join(folder, "fair.csv");
  await writeFile(
    file,
    [
      "E-mail;Prénom;Date of birth;Shoe size",
      "amelie.garnier@example.org;Amélie-Rose;03/04/1986;38",
      "fair.one@example.org;Una;01/02/1990;41",
      "fair.two@example.net;Otis;05/06/1991;42,5",
      "not an address;X;01/01/1990;40",
      "fair.one@example.org;Again;01/02/1990;41",
    ].join("\n"),
  );
  await studio.go("/people/imports");
  await (await studio.find("input[type=file]")).sendKeys(file);
  await studio.sees("choose: this file does not tell");
  await studio.sees("this file can be read in two ways");
  await studio.choose("Dates such as 3/4/2026 are", "day, month, year");
  await studio.click("Preview the import");
  await studio.sees("Import them");
  const shown = await studio.pageText();
  expect(shown).toMatch(/2\s+new\s+1\s+changed\s+0\s+stay as they are\s+2\s+rows refused/);
  expect(shown).toContain("1990-02-01");
  expect(shown).toContain("Row 5: “not an address” is not a mail address");
  expect(shown).toContain("Row 6: the same address as in row 3");
  await studio.click("Import them");
  await studio.sees("Undo the import");
  await studio.go("/people?search=fair.one");
  await studio.sees("fair.one@example.org");
  await studio.sees("Una");
  await studio.driver.navigate().back();
  await studio.click("Undo the import");
  await studio.sees("undone");
  await studio.go("/people?search=fair.one");
  await studio.sees("No matches");
  await studio.go("/people/contacts/1");
  await studio.sees("Amélie Garnier");
});

it("builds a segment by hand, with its reach, and one that names it", async () => {
  await studio.go("/people/segments/new");
  await studio.until("everybody to be counted", async () => (await reach()) > 2_000);
  const everybody = await reach();
  await addCondition("Birthday");
  await studio.choose("Birthday: comparison", "has its anniversary within");
  await studio.until("the birthdays", async () => (await words()).includes("within 30 days"));
  await studio.until("their reach", async () => (await reach()) < everybody / 5);
  const birthdays = await reach();
  expect(birthdays).toBeGreaterThan(50);
  const withSuppressed = await caught();
  expect(withSuppressed).toBeGreaterThan(birthdays);
  await studio.sees("It just misses");
  await studio.sees("lacks: Birthday has its anniversary within 30 days");
  await studio.fill("Name of the segment", "Birthdays soon");
  await studio.click("Save the segment");
  await studio.sees("Birthdays soon");

  await studio.go("/people/segments/new");
  await addCondition("is in a segment");
  await studio.choose("Which segment", "Birthdays soon");
  await studio.until("the same people", async () => (await caught()) === withSuppressed);
  await addCondition("Nearest site › Opening hours");
  await studio.choose("Nearest site › Opening hours: comparison", "contains");
  await (await studio.named("Nearest site › Opening hours: value")).sendKeys("Wednesday");
  await studio.until("fewer", async () => (await reach()) < birthdays);
  expect(await words()).toBe(
    "is in the segment “Birthdays soon” and Nearest site › Opening hours contains “Wednesday”",
  );
  await studio.fill("Name of the segment", "Birthdays at Saltmere");
  await studio.click("Save the segment");
  await studio.find('table[aria-label="Overlap of segments"]');
  const both = await studio.run<string>(`
    const table = document.querySelector('table[aria-label="Overlap of segments"]');
    const heads = [...table.querySelectorAll('thead th')].map((h) => h.textContent.trim());
    const row = [...table.querySelectorAll('tbody tr')].find((r) => r.querySelector('th').textContent.trim() === 'Birthdays at Saltmere');
    return row.querySelectorAll('td')[heads.indexOf('Birthdays soon')].textContent`);
  expect(Number(both)).toBeGreaterThan(0);
  // What another names cannot be removed.
  await studio.click("Birthdays soon", "a");
  await studio.sees("Used by “Birthdays at Saltmere”");
});

/** How often a cell was saved since the page was opened. */
const saves = () =>
  studio.run<number>(
    "return performance.getEntriesByType('resource').filter(({ name }) => /contacts\\/\\d+\\/values/.test(name)).length",
  );

it("picks people by hand for a list, by keyboard, and writes in a cell", async () => {
  await studio.go("/people?search=wren");
  await studio.sees("Wren");
  const cell = await studio.find('[data-cell="0:0"]');
  await studio.run("arguments[0].focus()", cell);
  await studio.press(" ", Key.ARROW_DOWN, " ");
  await studio.sees("2 people selected");
  await studio.choose("Add to a list", "Volunteers");
  await studio.sees("put on the list");
  await studio.choose("Add everybody in this view to a list", "Friends and Patrons");
  await studio.click(
    await studio.run(
      "return document.querySelector('[aria-live] button:not([role=combobox])').innerText",
    ),
  );
  await studio.until("all of them to be put", async () =>
    /([3-9]|\d\d+) people put on the list/.test(await studio.pageText()),
  );
  await studio.go("/people?search=wren");
  await studio.sees("Wren");
  await studio.run("arguments[0].focus()", await studio.find('[data-cell="0:1"]'));
  await studio.press(Key.ENTER);
  const input = await studio.find('[data-cell="0:1"] input');
  await input.sendKeys(Key.chord(Key.CONTROL, "a"), "Wrenna", Key.ENTER);
  await studio.until("the cell to say so", () =>
    studio.run("return document.querySelector('[data-cell=\"0:1\"]').innerText === 'Wrenna'"),
  );
  // Enter has saved it once, and Escape leaves it as it is.
  expect(await saves()).toBe(1);
  await studio.press(Key.ENTER);
  await studio.find('[data-cell="0:1"] input');
  await studio.press("zzz", Key.ESCAPE);
  await studio.until("the cell to be closed", () =>
    studio.run("return document.activeElement.dataset.cell === '0:1'"),
  );
  expect(await studio.run("return document.activeElement.innerText")).toBe("Wrenna");
  expect(await saves()).toBe(1);
});

it("lets a French reader choose, in French", async () => {
  await studio.go("/people/contacts/1");
  const page = await studio.run<string>(
    "return [...document.querySelectorAll('a')].find((a) => a.textContent === 'Their preference page').getAttribute('href')",
  );
  await studio.go(page);
  await studio.sees("Ce que vous recevez de nous");
  await studio.run(
    "[...document.querySelectorAll('label')].find((l) => l.textContent.includes('Ateliers')).querySelector('input').click()",
  );
  await studio.click("Enregistrer mes choix");
  await studio.sees("Vos choix sont enregistrés.");
  await studio.go("/people/contacts/1");
  await studio.sees("No to “Ateliers et promenades”");
});

it("signs somebody up in two steps, by the outbox", async () => {
  await studio.go("/people/preferences");
  const form = await studio.run<string>(`
    const all = [...document.querySelectorAll('details')];
    return all.find((d) => d.querySelector('summary').textContent.includes('Website')).querySelector('a').getAttribute('href')`);
  await studio.driver.get(form);
  await studio.hydrated();
  await studio.fill("Email address", "nobody at all");
  await studio.fill("First name", "Sage");
  await studio.run("document.querySelector('form').noValidate = true");
  await studio.click("Sign me up");
  await studio.sees("This is not a mail address.");
  await studio.fill("Email address", "sage.newcomer@example.org");
  await studio.click("Sign me up");
  await studio.sees("One more step");
  await studio.go("/people?search=sage.newcomer");
  await studio.sees("No matches");
  await studio.go("/outbox");
  await studio.sees("Please confirm: news from Larkmoor Botanic Garden");
  await studio.click("Please confirm: news from Larkmoor Botanic Garden", "a");
  await studio.until("the message", async () =>
    /\/outbox\/\d+$/.test(await studio.driver.getCurrentUrl()),
  );
  const source = await studio.run<string>(
    "return fetch(location.pathname + '/html').then((r) => r.text())",
  );
  const link = /http:\/\/[^\s"<]*\/confirm\/[\w-]+/.exec(source)![0];
  await studio.driver.get(link);
  await studio.hydrated();
  await studio.click("Yes, send me the emails");
  await studio.sees("Thank you, you are signed up");
  await studio.go("/people?search=sage.newcomer");
  await studio.click("sage.newcomer@example.org", "a");
  await studio.sees("I would like emails from Larkmoor Botanic Garden");
  await studio.sees("Newsletter");
});

it("makes one person of two, with a choice", async () => {
  await studio.go("/people");
  await studio.click("Add");
  await (await studio.named("Email address", "input")).sendKeys("Twice@example.org");
  await studio.click("Add this person");
  await studio.fill("First name · text", "Twyla");
  await studio.click("Save");
  await studio.sees("Saved.");
  // One is told of the other, and may say that they are two.
  await studio.go("/people");
  await studio.click("Add");
  await (await studio.named("Email address", "input")).sendKeys("twice@example.org");
  await studio.click("Add this person");
  await studio.sees("There is Twice@example.org already.");
  await studio.click("Add anyway: they are two mailboxes");
  await studio.fill("Country · text", "Wales");
  await studio.click("Save");
  await studio.sees("Saved.");
  await studio.go("/people/duplicates");
  await studio.sees("Twice@example.org");
  await studio.click("Merge them");
  await studio.sees("They are merged.");
  await studio.go("/people?search=twice@example");
  await studio.sees("1 person in this view");
  await studio.sees("Twyla");
  await studio.sees("Wales");
});

it("erases a person who asks for it, and gives them their data first", async () => {
  await studio.go("/people?search=orla");
  await studio.find('[role=grid] a[href^="/people/contacts/"]');
  const href = await studio.run<string>(
    "return document.querySelector('[role=grid] a[href^=\"/people/contacts/\"]').getAttribute('href')",
  );
  await studio.go(href);
  const email = await studio.run<string>(
    "return document.body.innerText.match(/\\S+@example\\.\\w+/)[0]",
  );
  const copy = await studio.run<{ email: string; events: unknown[] }>(
    "return fetch(location.pathname + '/data.json').then((r) => r.json())",
  );
  expect(copy.email).toBe(email);
  expect(copy.events.length).toBeGreaterThan(0);
  await studio.click("Their data: a copy, or erase it", "summary");
  await studio.fill("To erase this person, write their address", "somebody@example.org");
  await studio.click("Erase");
  await studio.sees("Write the address of this person to erase them.");
  await studio.fill("To erase this person, write their address", email);
  await studio.click("Erase");
  await studio.until("the table", async () =>
    (await studio.driver.getCurrentUrl()).endsWith("/people"),
  );
  await studio.go(`/people?search=${email}`);
  await studio.sees("No matches");
});
