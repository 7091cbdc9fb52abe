/**
 * Every block in the shapes it can take, in a real browser: at the widths that matter, with the style element
 * taken out, with pictures off, in the dark; and against the boxes that were accepted for it before
 * (`ACCEPT=1` accepts what is there now).
 */
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, it } from "vitest";
import { STANDARD_THEME } from "#core/theme/theme.ts";
import { Studio } from "./studio.ts";

let studio: Studio;
let names: string[];
beforeAll(async () => {
  studio = await Studio.open();
  await studio.go("/gallery");
  names = await studio.run<string[]>(
    "return [...document.querySelectorAll('section')].map((one) => one.getAttribute('aria-label'))",
  );
  // Only the frame under test is laid out from here on.
  await studio.run(MEASURING);
});
afterAll(() => studio?.close());

/** One measured element: its tag, and its box in whole px. */
type Box = [tag: string, x: number, y: number, width: number, height: number];
interface Measured {
  readonly scrollWidth: number;
  readonly overlaps: string[];
  readonly small: string[];
  readonly targets: string[];
  /** Words that stand out too little from their ground, with the figure: less than is wanted, and less than can be made out. */
  readonly pale: string[];
  readonly lost: string[];
  readonly ground: string;
  readonly boxes: Box[];
}

/** Puts `measure(name, query, width, dark)` on the page. Sizes stand on the pictures, so that none has to load. */
const MEASURING = `
document.body.innerHTML = '';
const pages = {};
const frame = document.createElement('iframe');
frame.sandbox = 'allow-same-origin';
document.body.append(frame);
window.measure = async (name, query, width, dark) => {
  const address = '/gallery/' + name + query;
  pages[address] ??= await (await fetch(address)).text();
  frame.style.cssText = 'border:0;height:800px;width:' + width + 'px;color-scheme:' + (dark ? 'dark' : 'light');
  const page = frame.contentDocument;
  page.open();
  page.write(pages[address]);
  page.close();
  const view = frame.contentWindow;
  const article = page.querySelector('[role=article]');
  const shown = (element) => element.checkVisibility();
  const things = [];
  const walker = page.createTreeWalker(article, NodeFilter.SHOW_TEXT);
  const small = [];
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    if (!node.data.trim() || !shown(node.parentElement)) continue;
    const range = page.createRange();
    range.selectNodeContents(node);
    const px = parseFloat(view.getComputedStyle(node.parentElement).fontSize);
    if (px < 14 && !node.parentElement.closest('sup, sub')) small.push(px + ' px: ' + node.data.trim().slice(0, 30));
    for (const rect of range.getClientRects()) things.push([node.data.trim().slice(0, 30), rect]);
  }
  for (const img of article.querySelectorAll('img')) {
    if (shown(img)) things.push(['picture ' + img.alt.slice(0, 20), img.getBoundingClientRect()]);
  }
  const linear = (c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
  const luminance = ([r, g, b]) => 0.2126 * linear(r / 255) + 0.7152 * linear(g / 255) + 0.0722 * linear(b / 255);
  const parts = (colour) => colour.match(/[\\d.]+/g).map(Number);
  const groundOf = (element) => {
    for (let at = element; at; at = at.parentElement) {
      const style = view.getComputedStyle(at);
      if (style.backgroundImage !== 'none') return null;
      const colour = parts(style.backgroundColor);
      if (colour.length === 3 || colour[3] === 1) return colour;
    }
    return [255, 255, 255];
  };
  const [pale, lost] = [[], []];
  const look = (element, words) => {
    const ground = groundOf(element);
    if (!ground) return;
    const style = view.getComputedStyle(element);
    const [a, b] = [luminance(parts(style.color)), luminance(ground)];
    const ratio = (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
    const size = parseFloat(style.fontSize);
    const large = size >= 24 || (size >= 18.66 && style.fontWeight >= 700);
    const said = words.slice(0, 30) + ' ' + Math.floor(ratio * 100) / 100;
    if (ratio < (large ? 3 : 4.5)) pale.push(said);
    if (ratio < 3) lost.push(said);
  };
  const words = page.createTreeWalker(article, NodeFilter.SHOW_TEXT);
  for (let node = words.nextNode(); node; node = words.nextNode()) {
    const said = node.data.trim();
    if (/[\\p{L}\\d]/u.test(said) && shown(node.parentElement)) look(node.parentElement, said);
  }
  for (const img of article.querySelectorAll('img')) if (img.alt && shown(img)) look(img, img.alt);
  const overlaps = [];
  for (const [i, [a, x]] of things.entries()) {
    for (const [b, y] of things.slice(i + 1)) {
      const across = Math.min(x.right, y.right) - Math.max(x.left, y.left);
      const down = Math.min(x.bottom, y.bottom) - Math.max(x.top, y.top);
      // Lines of text reach a little into each other where they stand close.
      if (across > 2 && down > 6) overlaps.push(a + ' / ' + b);
    }
  }
  const targets = [];
  for (const link of article.querySelectorAll('a[href]')) {
    if (!shown(link) || view.getComputedStyle(link).display === 'inline') continue;
    const { height, width: across } = link.getBoundingClientRect();
    if (height < 43.5 || across < 43.5) targets.push(link.textContent.trim() + ' ' + across + ' x ' + height);
  }
  const boxes = [...article.querySelectorAll('img, a, h1, h2, h3, p, li, th, td, span')]
    .filter(shown)
    .map((element) => {
      const { x, y, width: w, height: h } = element.getBoundingClientRect();
      return [element.tagName.toLowerCase(), ...[x, y, w, h].map(Math.round)];
    });
  const result = {
    scrollWidth: page.documentElement.scrollWidth,
    overlaps,
    small,
    targets,
    pale,
    lost,
    ground: view.getComputedStyle(page.body).backgroundColor,
    boxes,
  };
  return result;
};
`;

async function measureAll(query: string, width: number, dark = false, only = names) {
  const script = `const [names, query, width, dark, done] = arguments;
    (async () => {
      const all = {};
      for (const name of names) all[name] = await measure(name, query, width, dark);
      done(all);
    })();`;
  return studio.driver.executeAsyncScript<Record<string, Measured>>(
    script,
    only,
    query,
    width,
    dark,
  );
}

const WIDTHS = [320, 375, 414, 480, 600, 1200];
const PHONES = 480;

it.each(WIDTHS)("no block scrolls sideways, overlaps or gets small at %i px", async (width) => {
  for (const [name, one] of Object.entries(await measureAll("", width))) {
    expect([name, one.scrollWidth]).toEqual([name, width]);
    expect([name, one.overlaps]).toEqual([name, []]);
    expect([name, one.small]).toEqual([name, []]);
    if (width <= PHONES) expect([name, one.targets]).toEqual([name, []]);
  }
});

it.each(WIDTHS)("nor where the style element is dropped, at %i px", async (width) => {
  for (const [name, one] of Object.entries(await measureAll("?as=noStyle", width))) {
    expect([name, one.scrollWidth <= width]).toEqual([name, true]);
    expect([name, one.overlaps]).toEqual([name, []]);
  }
});

it.each(
  // What turns colours moves nothing.
  ["imagesOff", "tableOnly", "filtered", "largeType"].flatMap((family) =>
    [320, 600].map((width) => ({ family, width })),
  ),
)("nor in the family $family, at $width px", async ({ family, width }) => {
  // The table-only engine draws on desktops, where nothing stacks.
  if (family === "tableOnly" && width < 600) return;
  // An image in HTML by hand is as wide there as it says; a check finds it.
  const only = names.filter((name) => family !== "tableOnly" || name !== "html-picture");
  const all = await measureAll(`?as=${family}`, width, false, only);
  for (const [name, one] of Object.entries(all)) {
    expect([name, one.scrollWidth <= width]).toEqual([name, true]);
    expect([name, one.overlaps]).toEqual([name, []]);
  }
});

it.each([
  "sent",
  "noStyle",
  "imagesOff",
  "tableOnly",
  "filtered",
  "largeType",
  "forcedDark",
  "forcedDarkLight",
])("words stand out from their ground in the family %s", async (family) => {
  // HTML by hand that comes apart on purpose has a colour of its own on whatever ground is left.
  const only = names.filter((name) => name !== "html-odd");
  // Nobody can choose what programs do by force: there it is enough that words can still be made out.
  const byForce = family.startsWith("forcedDark");
  for (const dark of family === "sent" ? [false, true] : [false]) {
    const all = await measureAll(`?as=${family}`, 600, dark, only);
    const wrong = Object.entries(all).flatMap(([name, { pale, lost }]) =>
      (byForce ? lost : pale).map((said) => `${name}: ${said}`),
    );
    expect(wrong).toEqual([]);
  }
});

it("columns go one under another on phones, in the order that was asked for", async () => {
  const order = async (name: string, width: number) => {
    const { boxes } = (await measureAll("", width, false, [name]))[name]!;
    return boxes.filter(([tag]) => tag === "h3").map(([, x, y]) => ({ x, y }));
  };
  const stacked = await order("band-stack", 375);
  expect(stacked[0]!.x).toBe(stacked[1]!.x);
  expect(stacked[0]!.y).toBeLessThan(stacked[1]!.y);
  const wide = await order("band-stack", 600);
  expect(wide[0]!.y).toBe(wide[1]!.y);
  // The last one first: the source has the second column first, on wide they stand in their order.
  const reverse = await order("band-reverse", 600);
  expect(reverse[0]!.x).toBeGreaterThan(reverse[1]!.x);
  const keep = await order("band-keep", 375);
  expect(keep[0]!.x).toBeLessThan(keep[1]!.x);
  expect(Math.abs(keep[0]!.y - keep[1]!.y)).toBeLessThan(2);
  const mirrored = await order("band-rtl", 600);
  expect(mirrored[0]!.x).toBeGreaterThan(mirrored[1]!.x);
});

const rgb = (hex: string) =>
  `rgb(${[1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)).join(", ")})`;

const FILE = join(import.meta.dirname, "gallery-layout.json");
type Layout = Record<string, Box[]>;

/** Fonts differ a little between machines: places across are strict, heights are not. */
function differs(before: Box[], now: Box[]): string | null {
  if (before.map(([tag]) => tag).join() !== now.map(([tag]) => tag).join()) {
    return `other elements: ${now.map(([tag]) => tag).join(" ")}`;
  }
  for (const [i, [tag, x, y, width, height]] of before.entries()) {
    const [, nx, ny, nw, nh] = now[i]!;
    const inText = tag === "span" || tag === "a";
    const across = inText ? 40 : 3;
    const off =
      Math.abs(nx - x) > across ||
      Math.abs(nw - width) > across ||
      Math.abs(ny - y) > 12 + y * 0.15 ||
      Math.abs(nh - height) > 12 + height * 0.15;
    if (off) return `${tag} ${i}: ${[x, y, width, height]} became ${[nx, ny, nw, nh]}`;
  }
  return null;
}

it.each([false, true])(
  "every block stands as it was accepted, at both widths (dark: %s)",
  async (dark) => {
    const now: Layout = {};
    for (const width of [600, 375]) {
      for (const [name, one] of Object.entries(await measureAll("", width, dark))) {
        now[`${name} ${width}`] = one.boxes;
        const ground = dark ? STANDARD_THEME.dark!.ground : STANDARD_THEME.colours.ground;
        expect([name, one.ground]).toEqual([name, rgb(ground)]);
      }
    }
    if (process.env.ACCEPT && !dark) {
      const lines = Object.entries(now).map(
        ([key, boxes]) => `${JSON.stringify(key)}: ${JSON.stringify(boxes)}`,
      );
      writeFileSync(FILE, `{\n${lines.join(",\n")}\n}\n`);
    }
    expect(existsSync(FILE)).toBe(true);
    const accepted = JSON.parse(readFileSync(FILE, "utf8")) as Layout;
    const changed = Object.keys(now).flatMap((key) => {
      const why = accepted[key] ? differs(accepted[key], now[key]!) : "not accepted yet";
      return why ? [`${key}: ${why}`] : [];
    });
    if (changed.length > 0) {
      // A picture says more than boxes: the gallery as it looks now.
      await studio.go("/gallery");
      const picture = join(tmpdir(), "septima-gallery.png");
      writeFileSync(picture, Buffer.from(await studio.driver.takeScreenshot(), "base64"));
      await studio.run(MEASURING);
      console.error(`The gallery as it is now: ${picture}`);
    }
    expect(changed).toEqual([]);
    expect(Object.keys(accepted).filter((key) => !now[key])).toEqual([]);
  },
);
