/**
 * The wall of the proof in headless Chromium: `proof_wall_40` (opening it until 40 wide sheets are painted, over 40
 * times compile, merge and load one after the other; at most 0.5), and `wall_1000_first` (the first screen of a wall
 * of 1,000 versions over that of one of 40; at most 1.5: only what is in sight is drawn).
 */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc } from "#core/text/index.ts";
import { migrate, openInWorker } from "#server/db/open.ts";
import { createCampaign, getCampaign, listCampaigns } from "#server/store/campaigns.ts";
import { startApplication } from "../e2e/server.ts";
import { Studio } from "../e2e/studio.ts";
import { newsletter } from "./newsletter.ts";
import { threadEntry } from "./people-database.ts";
import type { Figure } from "./run.ts";

const ROUNDS = 5;
const SHEETS = 40;
/** A row of the wall, px, and what stands over the rows. */
const ROW = 282;
const OVER = 500;
/** Those whose address has a letter see a block: so many letters, so many conditions. */
const FEW = "lmdkyvow";
const MANY = "aeioulnrstmdkgbwcpyv";

/** A newsletter with a block more for each letter. */
function emailFor(letters: string): EmailDocument {
  const email = newsletter(20, 0);
  let n = 0;
  const id = () => `w${letters.length}${++n}`;
  const blocks = [...letters].map((letter) => {
    const seenBy: Rule = { type: "field", field: "email", op: "contains", argument: letter };
    return createBlock("text", id, { words: doc(`For those with ${letter}`), seenBy });
  });
  const band = createBand(id, [createColumn(id, blocks)]);
  return { ...email, root: { ...email.root, children: [...email.root.children, band] } };
}

/** Adds the two campaigns to a folder with the demo's data; gives their ids. */
async function prepare(folder: string): Promise<{ few: string; many: string }> {
  const entry = threadEntry("db-worker.js", "server/db/worker.ts");
  const database = await openInWorker(join(folder, "database"), entry);
  await migrate(database);
  const { sql } = database;
  const [known] = await listCampaigns(sql, { states: ["sent"], limit: 1 });
  const { audience } = (await getCampaign(sql, known!.id))!;
  const now = new Date();
  const few = await createCampaign(sql, "Some versions", emailFor(FEW), now, audience);
  const many = await createCampaign(sql, "Many versions", emailFor(MANY), now, audience);
  await database.close();
  return { few, many };
}

/** Waits in the page until so many wide sheets are painted, with their images; gives ms since it was asked for. */
const PAINTED = `
  const [wanted, done] = arguments;
  const look = () => {
    if (wanted > 2) [...document.querySelectorAll('button')].find((one) => one.textContent === 'Show them')?.click();
    const frames = [...document.querySelectorAll('iframe[title^="Wide:"]')].filter(({ contentDocument }) =>
      contentDocument?.body?.innerText && [...contentDocument.images].every((image) => image.complete));
    if (frames.length < wanted && performance.now() < 60_000) return void setTimeout(look, 5);
    requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now())));
  };
  look();`;

/** One version after the other: asked for, made, put into a frame, painted. */
const IN_TURN = `
  const [campaign, contacts, done] = arguments;
  (async () => {
    const begun = performance.now();
    for (const contact of contacts) {
      const answer = await fetch('/campaigns/' + campaign + '/sights?as=sent&contacts=' + contact);
      const { html } = (await answer.json()).sights[0];
      const frame = document.createElement('iframe');
      frame.src = '/sheet';
      frame.sandbox = 'allow-same-origin';
      frame.style.cssText = 'position:fixed;top:0;left:0;width:640px;height:400px;background:#fff';
      document.body.append(frame);
      await new Promise((ok) => { frame.onload = ok; });
      frame.contentDocument.documentElement.innerHTML = html;
      await Promise.all([...frame.contentDocument.images].map((image) => image.decode().catch(() => {})));
      await new Promise((ok) => requestAnimationFrame(() => requestAnimationFrame(ok)));
      frame.remove();
    }
    done(performance.now() - begun);
  })();`;

export async function wallGroup(figure: Figure): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "septima-bench-"));
  await (await startApplication(folder)).stop();
  const { few, many } = await prepare(folder);
  const app = await startApplication(folder);
  const studio = await Studio.open({}, app);
  const { driver } = studio;
  await driver.manage().setTimeouts({ script: 120_000 });
  const opened = async (campaign: string, sheets: number) => {
    await studio.go(`/campaigns/${campaign}/proof`);
    return driver.executeAsyncScript<number>(PAINTED, sheets);
  };
  try {
    await studio.go(`/campaigns/${few}/proof`);
    await studio.sees("versions, ");
    console.log(await studio.run("return document.querySelector('h1').innerText"));
    const samples = await driver.executeAsyncScript<number[]>(
      `const done = arguments[0];
      fetch('/contacts/find?search=a').then((answer) => answer.json()).then((found) => done(found.map?.((one) => one.id) ?? []));`,
    );
    const contacts = Array.from({ length: SHEETS }, (_, i) => samples[i % samples.length] ?? i + 1);
    const [wall, turn, first, firstOfMany]: number[][] = [[], [], [], []];
    for (let i = 0; i < ROUNDS; i++) {
      await studio.window(1280, SHEETS * ROW + OVER);
      wall!.push(await opened(few, SHEETS));
      await studio.window(1280, 800);
      await studio.go("/settings");
      turn!.push(await driver.executeAsyncScript<number>(IN_TURN, few, contacts));
      first!.push(await opened(few, 2));
      firstOfMany!.push(await opened(many, 2));
    }
    const least = (times: number[] | undefined) => Math.min(...times!);
    console.log(
      `wall ${least(wall).toFixed(0)} ms, in turn ${least(turn).toFixed(0)} ms; first ${least(first).toFixed(0)}, of many ${least(firstOfMany).toFixed(0)}`,
    );
    figure("proof_wall_40", least(wall) / least(turn));
    figure("wall_1000_first", least(firstOfMany) / least(first));
  } finally {
    await studio.close();
    await app.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
