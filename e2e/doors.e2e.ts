/** In and out: an email made elsewhere becomes one of ours, and ours is taken along as files. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { zipSync } from "fflate";
import { By } from "selenium-webdriver";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { projectRoot } from "#server/root.ts";
import { wordFile, wordParagraph } from "#server/testing/word.ts";
import { serious } from "./axe.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
let folder: string;
beforeAll(async () => {
  studio = await Studio.open();
  folder = mkdtempSync(join(tmpdir(), "septima-doors-"));
}, 60_000);
afterAll(async () => {
  await studio?.close();
  rmSync(folder, { recursive: true, force: true });
});

const bring = async (file: string) => {
  await studio.driver.findElement(By.css("input[type=file]")).sendKeys(file);
  await studio.click("Look at it");
};
const fixture = (name: string) => join(projectRoot(), "fixtures/emails", `${name}.html`);
/** What a download gives. */
const fetched = (address: string) =>
  studio.run<string>("return fetch(arguments[0]).then((answer) => answer.text())", address);

it("a text becomes headings, paragraphs and a button in the brand's theme", async () => {
  await studio.go("/campaigns/new");
  await studio.click("A text of yours", "a");
  await studio.click("Look at it");
  await studio.sees("Choose a file, or write something.");
  await studio.fill(
    "Write or paste it here",
    "# Apple day\n\nCome on Saturday. There is juice.\n\n[I will come](https://larkmoor.example/apples)\n",
  );
  expect(await serious(studio, "a text of one's own")).toEqual([]);
  await studio.click("Look at it");
  await studio.sees("It has become 3 blocks.");
  await studio.fill("Name of the campaign", "Apple day");
  await studio.click("Start composing");
  await studio.composing();
  const text = await studio.sheetText("wide");
  for (const words of ["Apple day", "There is juice.", "I will come"])
    expect(text).toContain(words);
}, 120_000);

it("an email made elsewhere is seen beside how it came, its tags are mapped, and it is composed on", async () => {
  await studio.go("/campaigns/new/arrive?as=file");
  await bring(fixture("05-marks-percent"));
  await studio.sees("Merge tags found");
  await studio.sees("It has become 4 blocks.");
  expect(await serious(studio, "what was brought")).toEqual([]);
  // What was guessed stands there; what nobody could guess is chosen.
  await studio.choose("What %%CARDNO%% means", "Email address");
  await studio.click("Put them in");
  await studio.sees("The merge tags are put in");
  await studio.click("Your theme", "button");
  await studio.fill("Name of the campaign", "Library card");
  await studio.click("Start composing");
  await studio.composing();
  const path = new URL(await studio.driver.getCurrentUrl()).pathname;
  const html = await fetched(`${path}/export/html?tags=yes`);
  expect(html).toContain('{{ contact["first_name"]');
  expect(html).toContain('{{ contact["email"]');
  expect(html).toContain("%%ENDDATE%%");
  expect(html).toMatch(/href="[^"]*\/u\/\{\{ token \}\}"[^>]*>/);
}, 120_000);

it("a Word document, Markdown and a message each become blocks, with a report", async () => {
  const words = [wordParagraph("Apple day", "Heading1"), wordParagraph("Come on Saturday.")];
  const eml = [
    "From: Somebody <somebody@larkmoor.example>",
    "Subject: Pears, too",
    "MIME-Version: 1.0",
    "Content-Type: text/html; charset=utf-8",
    "",
    "<html><body><h1>Pear day</h1><p>Come on Sunday.</p></body></html>",
  ].join("\r\n");
  const brought = [
    ["text", "apples.docx", wordFile(words.join("")), "Apple day", "Come on Saturday."],
    ["text", "plums.md", "# Plum day\n\nCome on *Monday*.\n", "Plum day", "Come on Monday."],
    ["file", "pears.eml", eml, "Pear day", "Come on Sunday."],
  ] as const;
  for (const [as, name, content, heading, said] of brought) {
    const file = join(folder, name);
    writeFileSync(file, content);
    await studio.go(`/campaigns/new/arrive?as=${as}`);
    await bring(file);
    await studio.sees("What was kept");
    await studio.sees("It has become 2 blocks.");
    await studio.fill("Name of the campaign", heading);
    await studio.click("Start composing");
    await studio.composing();
    const text = await studio.sheetText("wide");
    expect(text).toContain(heading);
    expect(text).toContain(said);
  }
}, 180_000);

it("a ZIP file brings its images into the library", async () => {
  const page =
    '<body><h1>From a ZIP</h1><img src="rose.png" alt="A rose"><p>Roses, and more roses.</p></body>';
  const ground = { width: 40, height: 30, channels: 3 as const, background: "#702040" };
  const png = await sharp({ create: ground }).png().toBuffer();
  const file = join(folder, "roses.zip");
  writeFileSync(file, zipSync({ "a/email.html": Buffer.from(page), "a/rose.png": png }));
  await studio.go("/campaigns/new/arrive?as=file");
  await bring(file);
  await studio.sees("It has become 3 blocks.");
  expect(await studio.pageText()).not.toContain("could not be fetched");
  await studio.click("Keep it as a template");
  await studio.sees("roses");
}, 120_000);

it("what cannot be taken is said at the field", async () => {
  await studio.go("/campaigns/new/arrive?as=file");
  const file = join(folder, "locked.zip");
  writeFileSync(file, "PK not a zip file");
  await bring(file);
  await studio.sees("This ZIP file is damaged, or it is locked.");
}, 60_000);

it("an email is taken out, and another Septima starts from its file", async () => {
  const path = await studio.newCampaign("Taken along", "Earlier campaign: Autumn, an idea");
  await studio.go(`${path}/proof`);
  await studio.click("Export", "a");
  await studio.sees("Septima file (JSON)");
  expect(await serious(studio, "export")).toEqual([]);
  const json = await fetched(`${path}/export/json`);
  const file = join(folder, "taken.json");
  writeFileSync(file, json);
  await studio.go("/campaigns/new/arrive?as=file");
  await bring(file);
  await studio.sees("What becomes of it");
  await studio.fill("Name of the campaign", "Come back");
  await studio.click("Start composing");
  await studio.composing();
  const again = new URL(await studio.driver.getCurrentUrl()).pathname;
  const before = JSON.parse(json).document;
  const after = JSON.parse(await fetched(`${again}/export/json`)).document;
  expect(after).toEqual(before);
  expect(readFileSync(file, "utf8")).toContain("septima");
}, 120_000);

it("a logo becomes a theme, and an email takes it with all its words", async () => {
  const logo = await sharp({
    create: { width: 60, height: 40, channels: 3, background: "#1a4f8b" },
  })
    .png()
    .toBuffer();
  const file = join(folder, "harbour-mark.png");
  writeFileSync(file, logo);
  await studio.go("/library/themes");
  await studio.driver.findElement(By.css("input[name=image]")).sendKeys(file);
  await studio.click("Propose a theme");
  await studio.sees("“harbour mark” is among your themes");
  await studio.sees("Every pair of colours reads well");
  expect(await serious(studio, "themes")).toEqual([]);
  const path = await studio.newCampaign("In blue", "Earlier campaign: Autumn, an idea");
  const before = await studio.sheetText("wide");
  const theme = async () =>
    (await studio.storedDocument(path)).root.props.theme as unknown as { name: string };
  const { name } = await theme();
  await studio.clickIn("wide", "[data-node]");
  await studio.click("Email", "button");
  await studio.choose("Theme", "harbour mark");
  await studio.until("the email to have it", async () => (await theme()).name === "harbour mark");
  expect(await studio.sheetText("wide")).toBe(before);
  await studio.click("Undo");
  await studio.until("the email to be as before", async () => (await theme()).name === name);
}, 120_000);

it("a block is saved from a sheet and put into another email from the tray", async () => {
  await studio.newCampaign("From which it is taken", "Earlier campaign: Autumn, an idea");
  await studio.clickIn("wide", "h1, h2, h3");
  await studio.click("Save…", "button");
  await studio.fill("Name", "Our opening");
  expect(await serious(studio, "saving blocks")).toEqual([]);
  await studio.click("Save", "button");
  await studio.sees("“Our opening” is saved");
  const path = await studio.newCampaign("Into which it is put", "A blank email");
  await studio.click("Saved…", "button");
  await studio.fill("Search saved blocks", "opening");
  await studio.click("Our opening", "button");
  const headings = async () =>
    JSON.stringify((await studio.storedDocument(path)).root).match(/"type":"heading"/g)?.length ??
    0;
  await studio.until("it to stand in the email", async () => (await headings()) === 1);
  await studio.click("Saved…", "button");
  await studio.fill("Search saved blocks", "links");
  await studio.click("Footer with links", "button");
  await studio.sheetShows("wide", "What is on");
  // By hand: what it is taken from lets the sheet be seen, and is gone when it has landed.
  await studio.click("Saved…", "button");
  await studio.fill("Search saved blocks", "opening");
  await studio.until("it alone to be found", () =>
    studio.run("return document.querySelectorAll('[data-tray^=\"saved:\"]').length === 1"),
  );
  const taken = await studio.named("Our opening", "button");
  const to = (await studio.pointIn("wide", "[data-text]", 0.1))!;
  await studio.carry(taken, to);
  const shown = () =>
    studio.run<string | null>(
      "const at = document.querySelector('[aria-label=\"Saved blocks\"]'); return at && getComputedStyle(at).opacity",
    );
  expect(await shown()).toBe("0");
  await studio.land();
  await studio.until("what it was taken from to close", async () => (await shown()) === null);
  expect(await headings()).toBe(2);
  await studio.go("/library/saved");
  await studio.sees("Footer with links");
  expect(await serious(studio, "saved blocks")).toEqual([]);
}, 120_000);

it("what is saved and what is a template go out as files, and come in from them", async () => {
  await studio.go("/library/saved");
  const saved = await studio.run<string>(
    "return document.querySelector('a[aria-label^=\"Download \"]').getAttribute('href')",
  );
  const text = await fetched(saved);
  const { name } = JSON.parse(text) as { name: string };
  const file = join(folder, "own.saved.json");
  writeFileSync(file, text);
  const field = await studio.named("Import one from a file");
  const wrong = join(folder, "wrong.json");
  writeFileSync(wrong, '{"septima":"saved","version":3}');
  await field.sendKeys(wrong);
  await studio.sees("newer Septima");
  await field.sendKeys(file);
  await studio.sees("It is among your saved blocks.");
  await studio.until("it to stand there with a name that can be changed", async () =>
    (await studio.named(`Name of ${name}`)).isDisplayed(),
  );
  await studio.go("/templates");
  const template = await studio.run<string>(
    "return [...document.querySelectorAll('main h2 a')].find((a) => a.innerText === 'Calm newsletter').getAttribute('href')",
  );
  const own = join(folder, "calm.template.json");
  writeFileSync(own, await fetched(`${template}/file`));
  await studio.click("From a file");
  await studio.sees("Or paste its HTML here");
  await bring(own);
  await studio.until(
    "its name to be proposed",
    async () =>
      (await (await studio.named("Name of the campaign")).getAttribute("value")) ===
      "Calm newsletter",
  );
}, 120_000);

it("a link leads to a file that is brought while linking, which is found again and given to readers", async () => {
  const path = await studio.newCampaign("With a plan", "Template: Calm newsletter");
  const plan = join(folder, "Winter plan.pdf");
  writeFileSync(plan, "%PDF-1.7\n%%EOF");
  const wrong = join(folder, "plan.html");
  writeFileSync(wrong, "<script>alert(1)</script>");
  await studio.clickRow("Button");
  await studio.choose("Link to", "A file");
  const brought = await studio.named("Another, from this device");
  await brought.sendKeys(wrong);
  await studio.sees("Only these can be linked to: pdf");
  await brought.sendKeys(plan);
  await studio.until("the file to be taken", async () =>
    (await (await studio.named("File")).getText()).includes("Winter plan.pdf"),
  );
  await studio.saved();
  const html = await fetched(`${path}/export/html`);
  const address = /href="([^"]*\/files\/[a-f0-9]{22}\/Winter%20plan\.pdf)"/.exec(html)?.[1];
  expect(await fetched(new URL(address!).pathname)).toBe("%PDF-1.7\n%%EOF");
  // In another email it is found by what it is called.
  await studio.newCampaign("With the same plan", "Template: Calm newsletter");
  await studio.clickRow("Button");
  await studio.choose("Link to", "A file");
  await studio.choose("File", "Winter plan");
  await studio.saved();
  await studio.until("the file to be named", async () =>
    (await (await studio.named("File")).getText()).includes("Winter plan.pdf"),
  );
  // Its page says what links to it, which keeps it from being deleted; another goes, and comes back.
  await studio.go("/library/files");
  await studio.click("Winter plan.pdf", "a");
  await studio.sees("With the same plan");
  expect(await serious(studio, "a file")).toEqual([]);
  expect(await (await studio.named("Delete the file")).isEnabled()).toBe(false);
  await studio.fill("Name", "Plan of the winter.pdf");
  await studio.click("Rename", "button");
  await studio.until("its new name", async () =>
    (await (await studio.find("h1")).getText()).includes("Plan of the winter.pdf"),
  );
  await studio.click("Files", "a");
  const other = join(folder, "Prices.csv");
  writeFileSync(other, "Seed,Price\nPoppy,3");
  await (await studio.named("A file from this device")).sendKeys(other);
  await studio.click("Prices.csv", "a");
  await studio.sees("Nothing yet.");
  await studio.click("Delete the file", "button");
  await studio.sees("The file “Prices.csv”");
  await studio.click("Undo");
  await studio.until(
    "the file to be back",
    async () => (await studio.driver.findElements(By.linkText("Prices.csv"))).length === 1,
  );
}, 120_000);
