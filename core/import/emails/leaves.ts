/** What single elements are: images, buttons, dividers, gaps. */
import { groundOf, type Look, lookIn, paddingOf, pxIn, widthOf } from "./look.ts";
import { type El, elementsIn, isEl, letters, some, visibleText } from "./tree.ts";

/** Elements that stand by themselves; all others run with the words. */
const BLOCKS = new Set(
  (
    "address article aside blockquote body center dd details div dl dt fieldset figcaption figure footer form " +
    "h1 h2 h3 h4 h5 h6 header hr li main nav ol p pre section summary table tbody td tfoot th thead tr ul"
  ).split(" "),
);
/** Nothing of ours: they stay as they are, in an HTML block. */
export const FOREIGN = new Set(
  "form video audio iframe object embed svg math canvas map input select textarea button marquee".split(
    " ",
  ),
);
export const isBlock = ({ tag, css }: El): boolean =>
  BLOCKS.has(tag) || (css.display === "block" && tag !== "a" && tag !== "img" && tag !== "span");

const imageOrBlock = (el: El): boolean => el.tag === "img" || isBlock(el) || FOREIGN.has(el.tag);
const holders = new WeakMap<El, boolean>();
/** Whether it is more than running words. */
export function holdsMore(el: El): boolean {
  let held = holders.get(el);
  if (held === undefined) {
    held = el.children.some(
      (one) => isEl(one) && (imageOrBlock(one) || isButton(one) || holdsMore(one)),
    );
    holders.set(el, held);
  }
  return held;
}

/** Names of pictures that only keep room. */
const ROOM = /(?:spacer|blank|pixel|clear|shim|transparent|dot)[^/]*\.(?:gif|png)(?:\?|$)/i;

export interface ImageSize {
  readonly width: number | null;
  readonly height: number | null;
}
export const sizeOf = (el: El, within: number): ImageSize => ({
  width: widthOf(el, within),
  height: pxIn(el.attrs.height) ?? pxIn(el.css.height),
});

/** What an image is: one to look at, room, or one that counts who opens. */
export function imageIs(el: El): "image" | "room" | "counter" {
  const { width, height } = sizeOf(el, 600);
  if (ROOM.test(el.attrs.src ?? "")) return "room";
  if (width !== null && height !== null && width <= 2 && height <= 2) return "counter";
  if (!el.attrs.src) return "room";
  const thin = (width ?? 99) <= 2 || (height ?? 99) <= 2;
  return thin && !el.attrs.alt ? "room" : "image";
}

/** Words of a link that can be those of a button. */
const BUTTON_WORDS = 60;

const noted = new WeakMap<El, boolean>();
/** A link that looks like a button by itself: it has a ground, or a border and room within. */
export function isButton(el: El): boolean {
  if (el.tag !== "a" || !el.attrs.href) return false;
  let is = noted.get(el);
  if (is === undefined) {
    const words = visibleText(el);
    is =
      words !== "" &&
      words.length <= BUTTON_WORDS &&
      !some(el, ({ tag }) => tag === "img" || tag === "table") &&
      dressed(el) !== null;
    noted.set(el, is);
  }
  return is;
}

/** The element, of a link and what alone is in it, that has the ground or border of a button. */
export function dressed(el: El): El | null {
  for (let one: El | null = el; one; one = onlyChild(one)) {
    if (groundOf(one)) return one;
    const [top] = paddingOf(one);
    if (top > 0 && /solid/.test(one.css.border ?? "")) return one;
  }
  return null;
}

/** The one element in it, where there are no words beside it. */
export function onlyChild(el: El): El | null {
  const inner = el.children.filter((one) => isEl(one) || letters(one) > 0);
  const [only] = inner;
  return inner.length === 1 && only && isEl(only) ? only : null;
}

/** The link in a cell that holds nothing else, whatever stands around it. */
export function onlyLink(el: El): El | null {
  if (letters(el) > BUTTON_WORDS) return null;
  const links = [...elementsIn(el)].filter(({ tag, attrs }) => tag === "a" && attrs.href);
  const [link] = links;
  if (links.length !== 1 || !link || some(el, ({ tag }) => tag === "img")) return null;
  const words = visibleText(link);
  return words !== "" && words.length <= BUTTON_WORDS && words === visibleText(el) ? link : null;
}

export const cornerOf = (...els: (El | null)[]): number => {
  const px = els.map((el) => (el ? (pxIn(el.css["border-radius"]) ?? 0) : 0));
  return Math.round(Math.min(40, Math.max(0, ...px)));
};

/** The colours of the words of a link: those of the innermost element that holds all of them. */
export function inkWithin(el: El, look: Look): string {
  let [at, is] = [el, lookIn(el, look)];
  for (let inner = onlyChild(at); inner; inner = onlyChild(at)) {
    is = lookIn(inner, is);
    at = inner;
  }
  return is.ink;
}

const borderOf = (css: El["css"]) => css["border-top"] ?? css["border-bottom"] ?? css.border;

/** What an element without words or images stands for: a line, room, or nothing. */
export function emptyIs(
  el: El,
  look: Look,
):
  | { kind: "divider"; colour: string | null; thickness: number }
  | { kind: "spacer"; height: number }
  | null {
  for (const one of [el, ...elementsIn(el)]) {
    const border = borderOf(one.css);
    const thick = pxIn(/([\d.]+)px/.exec(border ?? "")?.[0]);
    if (border && thick && /solid|dashed|dotted/.test(border)) {
      const colour = /#[0-9a-f]{3,6}\b|rgba?\([^)]*\)/i.exec(border)?.[0] ?? null;
      return { kind: "divider", colour, thickness: thick };
    }
    if (one.tag === "hr")
      return {
        kind: "divider",
        colour: one.attrs.color ?? null,
        thickness: pxIn(one.attrs.size) ?? 1,
      };
    const height = pxIn(one.attrs.height) ?? pxIn(one.css.height);
    const ground = groundOf(one);
    if (height && height <= 4 && ground && ground !== look.ground) {
      return { kind: "divider", colour: ground, thickness: height };
    }
  }
  const heights = [el, ...elementsIn(el)].map(
    (one) =>
      pxIn(one.attrs.height) ??
      pxIn(one.css.height) ??
      (one.tag === "td" || one.tag === "div" ? pxIn(one.css["line-height"]) : null) ??
      0,
  );
  const height = Math.max(0, ...heights);
  return height >= 8 ? { kind: "spacer", height } : null;
}
