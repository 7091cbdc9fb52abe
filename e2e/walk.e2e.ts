/**
 * A random walk through the composer: after every action the sheet shows just what rendering the stored
 * document anew gives. The seed is fixed, so that a failure comes again.
 */
import { Key } from "selenium-webdriver";
import { afterAll, beforeAll, expect, it } from "vitest";
import { BLOCKS } from "#core/blocks/index.ts";
import { isBlock, walk } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import { mergeText, prepare, type Reader, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { GARDEN } from "#demo/seed.ts";
import { Studio } from "./studio.ts";

const SEED = 20_261;
const ACTIONS = 300;

let studio: Studio;
beforeAll(async () => {
  studio = await Studio.open();
});
afterAll(() => studio?.close());

/** Numbers 0–1 from a seed (mulberry32). */
function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Does something in the page as a click or a key would. */
const click = (css: string, at: number) =>
  studio.run<boolean>(
    "const all = [...document.querySelectorAll(arguments[0])]; const one = all[Math.floor(arguments[1] * all.length)]; one?.click(); return Boolean(one)",
    css,
    at,
  );
const key = (name: string, modifiers: object = {}) =>
  studio.run(
    `const row = document.querySelector('[data-order][aria-selected=true]') ?? document.querySelector('[role=tree]');
     row.dispatchEvent(new KeyboardEvent('keydown', { key: arguments[0], bubbles: true, cancelable: true, ...arguments[1] }));`,
    name,
    modifiers,
  );

/** A hand moves, and what writing takes is loaded: the fields of the envelope, which stand open at first, show it. */
const handMoves = async () => {
  await studio.run("document.dispatchEvent(new PointerEvent('pointermove'))");
  await studio.find("[data-line] .ProseMirror");
};

it(`holds through ${ACTIONS} random actions`, async () => {
  const path = await studio.newCampaign("Random walk", "Earlier campaign: Autumn, an idea");
  await handMoves();
  const { brandName: name, postalAddress } = GARDEN;
  const surroundings: Surroundings = {
    brand: { name, postalAddress },
    publicAddress: "",
    pictures: new Map(),
  };
  // The composer reads as the first contact.
  const reader = await studio.driver.executeAsyncScript<{ values: Reader["values"] }>(
    "const [done] = arguments; fetch('/contacts/find?to=next').then((r) => r.json()).then(({ contacts }) => done(contacts[0]))",
  );
  const random = numbers(SEED);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const types = BLOCKS.map((kind) => kind.type);
  const modifier = { ctrlKey: true };

  const actions: Record<string, () => Promise<unknown>> = {
    place: async () => {
      // What stands in the tray's list of all blocks is opened by its group.
      const type = pick(types);
      const there = await studio.run<boolean>(
        "const b = document.querySelector('[data-tray=' + JSON.stringify(arguments[0]) + ']'); b?.click(); return Boolean(b)",
        type,
      );
      if (!there) await click("[data-tray]", random());
    },
    select: () => click("[data-order]", random()),
    range: () =>
      studio.run(
        "const all = [...document.querySelectorAll('[data-order]')]; all[Math.floor(arguments[0] * all.length)]?.dispatchEvent(new MouseEvent('click', { bubbles: true, shiftKey: true }))",
        random(),
      ),
    move: () => key(pick(["ArrowUp", "ArrowDown"]), { altKey: true }),
    duplicate: async () => {
      const { root } = await studio.storedDocument(path);
      if ([...walk(root)].filter((node) => isBlock(node.type)).length < 40)
        await key("d", modifier);
    },
    remove: () => key("Delete"),
    group: () => key("g", { ...modifier, shiftKey: random() < 0.5 }),
    write: async () => {
      const begun = await studio.inSheet<boolean>(
        "wide",
        `const all = [...page.querySelectorAll('[data-text]')].filter((e) => e.getBoundingClientRect().height > 0);
         const one = all[Math.floor(args[0] * all.length)];
         if (!one) return false;
         const { x, y, width, height } = one.getBoundingClientRect();
         one.dispatchEvent(new page.defaultView.MouseEvent('click', { bubbles: true, cancelable: true }));
         one.dispatchEvent(new page.defaultView.MouseEvent('dblclick', { bubbles: true, cancelable: true, clientX: x + width / 2, clientY: y + height / 2 }));
         return page.querySelector('.writing') !== null;`,
        random(),
      );
      if (!begun) return;
      await studio.press(pick(["Autumn ", "walks & <b>", "été ", "1 2 3 "]), Key.ESCAPE);
    },
    style: async () => {
      const changed = await click(
        "aside[aria-label=Settings] [data-style] button[aria-pressed]",
        random(),
      );
      if (!changed) await click("aside[aria-label=Settings] [role=radio]", random());
    },
    undo: () => click("[aria-label=Undo]:not(:disabled)", 0),
    redo: () => click("[aria-label=Redo]:not(:disabled)", 0),
    reload: async () => {
      if (random() < 0.7) return;
      await studio.driver.navigate().refresh();
      await studio.hydrated();
      await studio.composing();
      await handMoves();
    },
  };
  const weighted = Object.keys(actions).flatMap((name) =>
    Array<string>(
      ({ place: 5, write: 4, style: 5, undo: 3, move: 3, select: 3 } as Record<string, number>)[
        name
      ] ?? 2,
    ).fill(name),
  );

  /** Where the sheets show something else than an email; they follow the document in the next frames. */
  const differences = (html: string) =>
    studio.driver.executeAsyncScript<string[]>(
      `const [html, done] = arguments;
       // Line ends between rows are where the text was broken, and mean nothing.
       const article = (of) => of.querySelector('[role=article]').outerHTML.replaceAll('\\n', '');
       const fresh = article(new DOMParser().parseFromString(html, 'text/html'));
       const look = () => [...document.querySelectorAll('iframe.sheet-frame')].flatMap((frame) => {
         const shown = article(frame.contentDocument);
         if (fresh === shown) return [];
         let i = 0; while (fresh[i] === shown[i]) i++;
         const part = (of) => of.slice(Math.max(0, i - 120), i + 120);
         return [frame.title + ' shows …' + part(shown) + '\\nfresh …' + part(fresh)];
       });
       const until = performance.now() + 2_000;
       (function again() {
         const found = look();
         if (found.length === 0 || performance.now() > until) done(found);
         else requestAnimationFrame(again);
       })();`,
      html,
    );

  let done = 0;
  const trail: string[] = [];
  const changed = new Set<string>();
  for (; done < ACTIONS; done++) {
    const name = pick(weighted);
    trail.push(name);
    await actions[name]!();
    await studio.saved();
    const doc = await studio.storedDocument(path);
    changed.add(canonical(doc));
    const html = mergeText(
      prepare(compile(doc, surroundings), { links: "direct", marks: true, sign: unsigned }).html,
      { values: reader.values, token: "" },
    );
    const last = await differences(html);
    expect(last, `after ${trail.slice(-6).join(", ")} (action ${done})`).toEqual([]);
  }
  expect(done).toBe(ACTIONS);
  // It has been somewhere.
  expect(changed.size).toBeGreaterThan(ACTIONS / 4);
}, 240_000);
