/** `npm run screenshots`: one picture of each main view, from fresh demo data, into docs/screenshots. */
import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Key } from "selenium-webdriver";
import { projectRoot } from "#server/root.ts";
import { mainViews } from "../e2e/main-views.ts";
import { startApplication } from "../e2e/server.ts";
import { Studio } from "../e2e/studio.ts";

/** Views that say more after something was done in them. */
const BEFORE: Record<string, (studio: Studio) => Promise<void>> = {
  async compose(studio) {
    await studio.composing();
    await studio.clickIn("wide", "h1[data-text]");
  },
  async live(studio) {
    await studio.composing();
    await studio.clickRow("Shelf");
    // Somebody who has bought something, so that there is a reason.
    await studio.until("reasons of a reader's own", async () => {
      if ((await studio.pageText()).includes("often bought with “")) return true;
      await studio.click("Next contact");
      await studio.driver.sleep(500);
      return false;
    });
    await studio.click("Items…");
    await studio.driver.sleep(1_200);
    await studio.run(
      "document.querySelector('[aria-label=\"What is shown, and why\"]').scrollIntoView({ block: 'end' })",
    );
  },
  async arrived(studio) {
    const file = join(projectRoot(), "fixtures/emails/05-marks-percent.html");
    await (await studio.find("input[type=file]")).sendKeys(file);
    await studio.click("Look at it");
    await studio.sees("Merge tags found");
  },
  async segment(studio) {
    await studio.sees("It just misses");
  },
  async import(studio) {
    const file = join(mkdtempSync(join(tmpdir(), "septima-pictures-")), "fair.csv");
    writeFileSync(file, FAIR);
    await (await studio.find("input[type=file]")).sendKeys(file);
    await studio.click("Preview the import");
    await studio.sees("Import them");
  },
  async history(studio) {
    await studio.composing();
    await studio.clickIn("wide", "h1[data-text]", 2);
    await studio.press(Key.END, " – for you", Key.ESCAPE);
    await studio.saved();
    await studio.click("History");
    await studio.fill("Keep this moment as", "Before the walks change");
    await studio.click("Keep");
    await studio.sees("Wrote in");
    await studio.clickIn("wide", "h1[data-text]");
    await studio.press(Key.DELETE);
    await studio.saved();
    await studio.driver.sleep(900);
    await (await studio.find("[data-seq]")).click();
    await studio.sees("As it was then.");
  },
};

/** A file of people as somebody might send it. */
const FAIR = `E-mail;Prénom;Surname;Date of birth;Visits in a year;Shoe size
amelie.garnier@example.org;Amélie;Garnier-Rosier;03/04/1986;12;38
una.fair@example.org;Una;Fairlight;21/02/1990;3;41
otis.fair@example.net;Otis;Fairlight;05/06/1991;;42,5
not an address;X;Y;01/01/1990;1;40
bad.date@example.org;Bad;Date;31/02/1990;2;39
`;

/** Something to see in the outbox: a test of the draft. */
async function sendTest(studio: Studio, proof: string): Promise<void> {
  await studio.go(proof);
  await studio.fill("Send a test to", "studio@larkmoor.example, head@larkmoor.example");
  await studio.click("Send the test");
  await studio.sees("2 tests are out");
}

/** Views that look like another that has a picture. */
const SEEN_ELSEWHERE = new Set([
  ...["templates", "code-roll", "feed", "catalogue", "segments", "derived-tag", "export"],
  ...["image", "template", "theme"],
]);

const folder = join(projectRoot(), process.argv[2] ?? "docs/screenshots");
mkdirSync(folder, { recursive: true });
const running = await startApplication();
try {
  const studio = await Studio.open({ dark: process.argv.includes("--dark") }, running);
  const main = await mainViews(studio);
  const compose = main.find((view) => view.name === "compose")!;
  const shown = main.filter(({ name }) => !SEEN_ELSEWHERE.has(name));
  const views = [...shown, { name: "history", path: compose.path }];
  await sendTest(studio, views.find((view) => view.name === "proof")!.path);
  for (const { name, path } of views) {
    await studio.go(path);
    await BEFORE[name]?.(studio);
    await studio.driver.sleep(900);
    writeFileSync(join(folder, `${name}.png`), await studio.driver.takeScreenshot(), "base64");
    console.log(name);
  }
  await studio.close();
} finally {
  await running.stop();
}
process.exit(0);
