/**
 * The composer in headless Chromium, each figure against a floor of the same run:
 * `key_task_vs_bare` (main-thread time per key over that of the same editor in the same email in two frames, the
 * other's text set at each key; at most 1.5), `key_next_frame_share` (at least the bare one's less 0.01),
 * `key_200_vs_60` (at most 1.15), `other_sheet_ms` (until the other sheet has a letter; at most 200),
 * `hover_redraws` (components drawn by moving over ten blocks; at most 30), `drop_vs_bare` (at most 1.5),
 * `open_200_vs_bare` (at most 2.5), `composer_script_kb` (gzipped script of a first opening; at most 450); and
 * the medians in milliseconds for reading.
 */

import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";
import { nanoid } from "nanoid";
import { Key, Origin, type WebDriver } from "selenium-webdriver";
import type { Driver as ChromiumDriver } from "selenium-webdriver/chrome.js";
import type { EmailDocument, Envelope } from "#core/document/index.ts";
import { mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { openBrowser } from "../e2e/browser.ts";
import { startApplication } from "../e2e/server.ts";
import { Studio } from "../e2e/studio.ts";
import { newsletter, readers, SURROUNDINGS } from "./newsletter.ts";
import { servePage } from "./page-server.ts";
import type { Figure } from "./run.ts";
import { mainThreadTime, openTracer, type Tracer } from "./trace.ts";

const KEYS = 120;
/** Between two keys, ms: a fast writer. */
const PACE = 60;
const ROUNDS = 7;
/** Rounds of writing and of dropping, and drops in one of them. */
const TYPED = 3;
const DROPS = 4;

const median = (values: readonly number[]) =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;

/** Words with the letters of a language, a blank now and then. */
const letters = Array.from({ length: KEYS }, (_, i) => (i % 6 === 5 ? " " : "aeionrstl"[i % 9]!));

const htmlOf = (doc: EmailDocument) =>
  mergeText(
    prepare(compile(doc, SURROUNDINGS), { links: "direct", marks: true, sign: unsigned }).html,
    readers(1)[0]!,
  );

/** Types into what has the focus, at a pace. */
async function type(driver: WebDriver): Promise<void> {
  const actions = driver.actions();
  for (const letter of letters) actions.sendKeys(letter).pause(PACE);
  await actions.perform();
}

/** Watches keys in a document: whether each is painted in the next frame. */
const WATCH = `
  const page = arguments[0] ? document.querySelector(arguments[0]).contentDocument : document;
  const seen = (window.keysSeen = []);
  page.addEventListener('keydown', (event) => {
    if (event.key.length !== 1) return;
    // A frame counts from its own beginning.
    const t0 = event.timeStamp + page.defaultView.performance.timeOrigin - performance.timeOrigin;
    const before = page.activeElement.textContent.length;
    requestAnimationFrame((first) => {
      const there = page.activeElement.textContent.length > before;
      requestAnimationFrame((second) => seen.push({ there, first: first - t0, second: second - t0 }));
    });
  }, true);`;
/** Two frames of 60 Hz, and what clocks are off by, ms: then the key was painted in the first of them. */
const TWO_FRAMES = 2 * (1_000 / 60) + 3;

interface Typing {
  /** Main-thread time per key, ms. */
  readonly perKey: number;
  readonly share: number;
}

async function typing(driver: WebDriver, tracer: Tracer, frame: string | null): Promise<Typing> {
  await driver.executeScript(WATCH, frame);
  const events = await tracer.during(async () => {
    await driver.executeScript("performance.mark('typing begins')");
    await type(driver);
    await driver.sleep(700);
    await driver.executeScript("performance.mark('typing ends')");
  });
  const seen =
    await driver.executeScript<{ there: boolean; second: number }[]>("return window.keysSeen");
  const painted = seen.filter((one) => one.there && one.second <= TWO_FRAMES).length;
  return {
    perKey: mainThreadTime(events, "typing begins", "typing ends") / KEYS,
    share: painted / KEYS,
  };
}

const WIDE = "[aria-label='Wide sheet'] iframe";

/** A campaign with so many blocks; gives its path. */
async function campaignOf(studio: Studio, blocks: number): Promise<string> {
  const path = await studio.newCampaign(`${blocks} blocks`);
  const bands = newsletter(blocks, Math.round(blocks / 5)).root.children;
  let after: string | null = null;
  const changes = bands.map((node) => {
    const edit = { type: "insert" as const, parent: "email", after, node };
    after = node.id;
    const id = nanoid(16);
    return { id, edit, does: "do" as const, step: id, of: null };
  });
  for (let at = 0; at < changes.length; at += 100) {
    const envelope: Envelope = { tab: "bench-tab", base: at, changes: changes.slice(at, at + 100) };
    const status = await studio.driver.executeAsyncScript<number>(
      `const [path, body, done] = arguments; fetch(path + '/edits', { method: 'POST', body, headers: { 'Content-Type': 'application/json' } }).then((r) => done(r.status))`,
      path,
      JSON.stringify(envelope),
    );
    if (status !== 200) throw new Error(`The blocks were refused: ${status}`);
  }
  return path;
}

async function openCampaign(studio: Studio, path: string): Promise<void> {
  await studio.go(path);
  await studio.composing();
  await studio.driver.sleep(1_200);
}

async function typeInto(studio: Studio, tracer: Tracer): Promise<Typing> {
  await studio.clickIn("wide", 'div[data-text="words"]', 2);
  return typing(studio.driver, tracer, WIDE);
}

/** From navigation to both sheets written and the page answering, ms. */
async function opening(studio: Studio, path: string): Promise<{ seen: number; ready: number }> {
  await studio.driver.get(`${studio.base}${path}`);
  return studio.driver.executeAsyncScript(
    `const done = arguments[0];
     const look = () => {
       const marks = ['wide', 'narrow'].map((n) => performance.getEntriesByName(n + ' sheet shown')[0]);
       const painted = [...document.querySelectorAll('.sheet-frame')].map((f) => {
         const { performance: own } = f.contentWindow;
         const paint = own.getEntriesByName('first-contentful-paint')[0];
         return paint && own.timeOrigin - performance.timeOrigin + paint.startTime;
       });
       if (![...marks, ...painted].every(Boolean)) return setTimeout(look, 5);
       for (const f of document.querySelectorAll('iframe')) void f.contentDocument.body.offsetHeight;
       done({ seen: Math.max(...painted), ready: Math.max(...marks.map((m) => m.startTime)) });
     };
     look();`,
  );
}

/** Drops a block from the tray; from pointer up to laid out on both sheets, ms. */
async function dropping(studio: Studio): Promise<number> {
  await studio.run(
    `const frames = [...document.querySelectorAll('iframe')];
     const count = (f) => f.contentDocument.querySelectorAll('[data-node]').length;
     const before = frames.map(count);
     window.dropped = null;
     window.addEventListener('pointerup', (event) => {
       const begin = event.timeStamp;
       const look = () => {
         if (!frames.every((f, i) => count(f) > before[i])) return;
         for (const f of frames) void f.contentDocument.body.offsetHeight;
         for (const o of observers) o.disconnect();
         window.dropped = performance.now() - begin;
       };
       const observers = frames.map((f) => {
         const o = new MutationObserver(look);
         o.observe(f.contentDocument.body, { childList: true, subtree: true });
         return o;
       });
     }, { capture: true, once: true });`,
  );
  const tray = await studio.find('[data-tray="button"]');
  const point = (await studio.pointIn("wide", "h1, h2, h3", 0.8))!;
  await studio.driver
    .actions()
    .move({ origin: tray, duration: 0 })
    .press()
    .move({ x: point.x, y: point.y - 10, duration: 80, origin: Origin.VIEWPORT })
    .move({ ...point, duration: 80, origin: Origin.VIEWPORT })
    .perform();
  await studio.find("[data-landing]");
  await studio.driver.sleep(150);
  await studio.driver.actions().release().perform();
  await studio.until("the block to be dropped", () => studio.run("return window.dropped !== null"));
  await studio.saved();
  await studio.driver.sleep(700);
  return studio.run<number>("return window.dropped");
}

/** From a key to its letter on the other sheet, the slowest of some, ms. */
async function reachingOther(studio: Studio): Promise<number> {
  let slowest = 0;
  for (const letter of "zqzqz") {
    await studio.run(
      `const [wide, narrow] = [...document.querySelectorAll('iframe')].map((f) => f.contentDocument);
       const text = () => narrow.body.textContent;
       const before = text();
       window.reached = null;
       wide.addEventListener('keydown', () => {
         const begun = performance.now();
         const look = () => {
           if (text() !== before) window.reached = performance.now() - begun;
           else requestAnimationFrame(look);
         };
         look();
       }, { once: true, capture: true });`,
    );
    await studio.press(letter);
    await studio.until("the other sheet", () => studio.run("return window.reached !== null"));
    slowest = Math.max(slowest, await studio.run<number>("return window.reached"));
    await studio.driver.sleep(400);
  }
  return slowest;
}

/** Counts the components that are drawn, as developer tools of React do: by the work noted on what is new in the tree. */
const COUNT_DRAWN = `
  window.drawn = 0;
  const PERFORMED = 1;
  const count = (fiber, before) => {
    if (fiber === before) return;
    const component = typeof fiber.type === 'function' || (fiber.type && typeof fiber.type === 'object');
    if (component && fiber.flags & PERFORMED) window.drawn++;
    if (before && fiber.child === before.child) return;
    for (let child = fiber.child; child; child = child.sibling) count(child, child.alternate);
  };
  window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
    renderers: new Map(), supportsFiber: true, inject: () => 1,
    onCommitFiberUnmount() {}, onPostCommitFiberRoot() {},
    onCommitFiberRoot: (id, root) => count(root.current, root.current.alternate),
  };`;

/** Moves over ten blocks; gives how many components were drawn. */
async function hovering(studio: Studio): Promise<number> {
  const { driver } = studio;
  await (driver as ChromiumDriver).sendDevToolsCommand("Page.addScriptToEvaluateOnNewDocument", {
    source: COUNT_DRAWN,
  });
  await studio.driver.navigate().refresh();
  await studio.composing();
  await driver.sleep(1_500);
  const points = await studio.run<{ x: number; y: number }[]>(
    `const frame = document.querySelector(arguments[0]);
     const at = frame.getBoundingClientRect();
     const scale = at.width / frame.clientWidth;
     const blocks = [...frame.contentDocument.querySelectorAll('[data-text]')].map((one) => one.closest('[data-node]'));
     return [...new Set(blocks)].map((one) => one.getBoundingClientRect()).filter((box) => box.height > 4)
       .map((box) => ({ x: at.left + (box.x + 4) * scale, y: at.top + (box.y + box.height / 2) * scale }))
       .filter(({ y }) => y < innerHeight - 140 && y > at.top);`,
    WIDE,
  );
  const ten = points.slice(0, 10);
  const move = (point: { x: number; y: number }) =>
    driver
      .actions()
      .move({
        x: Math.round(point.x),
        y: Math.round(point.y),
        duration: 0,
        origin: Origin.VIEWPORT,
      })
      .perform();
  await move({ x: 5, y: 5 });
  await driver.sleep(300);
  await driver.executeScript("window.drawn = 0");
  for (let i = 0; i < 10; i++) {
    await move(ten[i % ten.length]!);
    await driver.sleep(60);
  }
  return studio.run<number>("return window.drawn");
}

/** The script of a first opening, gzipped, KB. */
async function scriptOf(studio: Studio, path: string): Promise<number> {
  await openCampaign(studio, path);
  const names = await studio.run<string[]>(
    `return performance.getEntriesByType('resource').map((one) => new URL(one.name).pathname)
       .filter((name) => name.endsWith('.js'))`,
  );
  const files = [...new Set(names)].map((name) => readFileSync(`build/client${name}`));
  return files.reduce((sum, file) => sum + gzipSync(file).length, 0) / 1024;
}

export async function composerGroup(figure: Figure): Promise<void> {
  const application = await startApplication();
  const frames = (html: boolean) =>
    `<iframe src="${html ? "/email" : "/sheet"}" width="600" height="4000"></iframe><iframe src="${html ? "/email" : "/sheet"}" width="375" height="4000"></iframe>`;
  const script = `<script type="module" src="/page.js"></script>`;
  const bare = await servePage("bare-page.ts", {
    "/frames": `<!doctype html>${frames(false)}${script}`,
    "/sheet": "<!doctype html><html><head><title>Sheet</title></head><body></body></html>",
    "/open": `<!doctype html>${frames(true)}`,
  });
  const driver = await openBrowser();
  const tracer = await openTracer(driver);
  try {
    const studio = await Studio.with(driver, application);
    const sixty = await campaignOf(studio, 60);
    const many = await campaignOf(studio, 200);

    // Writing: bare, in an email of 60 blocks, in one of 200; round by round, as machines are not always as quick.
    const rounds: { floor: Typing; in60: Typing; in200: Typing }[] = [];
    for (let round = 0; round < TYPED; round++) {
      await driver.get(`${bare.address}/frames`);
      await studio.until("the bare frames", () =>
        studio.run("return typeof window.writeInFirst === 'function'"),
      );
      await driver.executeScript("window.writeInFirst(arguments[0])", htmlOf(newsletter(60, 12)));
      await typing(driver, tracer, "iframe");
      const floor = await typing(driver, tracer, "iframe");
      await openCampaign(studio, sixty);
      await typeInto(studio, tracer);
      const in60 = await typeInto(studio, tracer);
      if (round === 0) figure("other_sheet_ms", await reachingOther(studio));
      await studio.press(Key.ESCAPE);
      await openCampaign(studio, many);
      await typeInto(studio, tracer);
      const in200 = await typeInto(studio, tracer);
      await studio.press(Key.ESCAPE);
      await studio.saved();
      rounds.push({ floor, in60, in200 });
    }
    const typed: Record<string, (round: (typeof rounds)[number]) => number> = {
      key_task_bare_ms: ({ floor }) => floor.perKey,
      key_task_60_ms: ({ in60 }) => in60.perKey,
      key_task_200_ms: ({ in200 }) => in200.perKey,
      key_task_vs_bare: ({ floor, in60 }) => in60.perKey / floor.perKey,
      key_next_frame_share: ({ in60, in200 }) => Math.min(in60.share, in200.share),
      key_next_frame_share_bare: ({ floor }) => floor.share,
      key_200_vs_60: ({ in60, in200 }) => in200.perKey / in60.perKey,
    };
    for (const [name, value] of Object.entries(typed)) figure(name, median(rounds.map(value)));

    figure("hover_redraws", await hovering(studio));
    figure("composer_script_kb", await scriptOf(studio, sixty));

    // Dropping a block, against putting the same HTML into both frames; round by round too.
    const html = htmlOf(newsletter(60, 12));
    const dropRounds: { drop: number; put: number }[] = [];
    for (let round = 0; round < TYPED; round++) {
      await openCampaign(studio, sixty);
      const drops: number[] = [];
      for (let i = 0; i < DROPS; i++) drops.push(await dropping(studio));
      await driver.get(`${bare.address}/frames`);
      await studio.until("the bare frames", () =>
        studio.run("return typeof window.putBoth === 'function'"),
      );
      const puts: number[] = [];
      for (let i = 0; i < ROUNDS; i++) {
        puts.push(await studio.run<number>("return window.putBoth(arguments[0])", html));
      }
      dropRounds.push({ drop: median(drops), put: median(puts) });
    }
    figure("drop_ms", median(dropRounds.map(({ drop }) => drop)));
    figure("drop_bare_ms", median(dropRounds.map(({ put }) => put)));
    figure("drop_vs_bare", median(dropRounds.map(({ drop, put }) => drop / put)));

    // Opening an email of 200 blocks, against loading the finished HTML into two frames.
    bare.serve("/email", htmlOf(newsletter(200, 40)));
    const opens: Awaited<ReturnType<typeof opening>>[] = [];
    const loads: number[] = [];
    for (let i = 0; i < ROUNDS; i++) {
      opens.push(await opening(studio, many));
      await driver.get(`${bare.address}/open`);
      loads.push(
        await studio
          .run<number>(
            "for (const f of document.querySelectorAll('iframe')) void f.contentDocument.body.offsetHeight; return performance.now()",
          )
          .then(() =>
            studio.run<number>("return performance.getEntriesByType('navigation')[0].loadEventEnd"),
          ),
      );
    }
    const seen = median(opens.map((one) => one.seen));
    figure("open_200_ms", seen);
    figure("open_200_ready_ms", median(opens.map(({ ready }) => ready)));
    figure("open_200_bare_ms", median(loads));
    figure("open_200_vs_bare", seen / median(loads));
  } finally {
    await driver.quit();
    await bare.stop();
    await application.stop();
  }
}
