/** `npm run screenshots`: one picture of each main view, from fresh demo data, into docs/screenshots. */
import { mkdirSync, writeFileSync } from "node:fs";
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

/** Something to see in the outbox: a test of the draft. */
async function sendTest(studio: Studio, proof: string): Promise<void> {
  await studio.go(proof);
  await studio.fill("Send a test to", "studio@larkmoor.example, head@larkmoor.example");
  await studio.click("Send the test");
  await studio.sees("2 tests are out");
}

const folder = join(projectRoot(), process.argv[2] ?? "docs/screenshots");
mkdirSync(folder, { recursive: true });
const running = await startApplication();
try {
  const studio = await Studio.open({ dark: process.argv.includes("--dark") }, running);
  const main = await mainViews(studio);
  const compose = main.find((view) => view.name === "compose")!;
  const views = [...main, { name: "history", path: compose.path }];
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
