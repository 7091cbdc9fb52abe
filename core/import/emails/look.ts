/** How a part of a foreign email looks: what it takes over from around it, and what it says itself. */
import { formatHex, parse as parseColour } from "culori";
import type { El } from "./tree.ts";

/** What inner parts take over. */
export interface Look {
  /** Hex; the ground it stands on, and its words. */
  readonly ground: string;
  readonly ink: string;
  /** px */
  readonly size: number;
  readonly family: string;
  readonly align: "left" | "center" | "right" | null;
  readonly dir: "ltr" | "rtl";
  /** px that it may be wide. */
  readonly width: number;
}
export const START: Look = {
  ...{ ground: "#ffffff", ink: "#000000", size: 16, family: "" },
  ...{ align: null, dir: "ltr", width: 600 },
};

const colours = new Map<string, string | null>();
const KEPT = 2_000;
/** A colour as # and six digits; null where there is none, or it cannot be seen. Emails name few, again and again. */
export function hexIn(written: string | undefined): string | null {
  if (!written) return null;
  let hex = colours.get(written);
  if (hex === undefined) {
    const text = written.trim();
    const parsed = parseColour(/^[0-9a-f]{6}$/i.test(text) ? `#${text}` : text);
    hex = parsed && (parsed.alpha ?? 1) >= 0.1 ? (formatHex(parsed) ?? null) : null;
    if (colours.size >= KEPT) colours.clear();
    colours.set(written, hex);
  }
  return hex;
}

/** A length in px; null for anything else. `of` is what per cent and em are of. */
export function pxIn(written: string | undefined, of = 16): number | null {
  if (written === undefined) return null;
  const found = /^\s*(-?[\d.]+)\s*(px|pt|em|rem|%)?/i.exec(written);
  if (!found) return null;
  const n = Number(found[1]);
  if (!Number.isFinite(n)) return null;
  switch (found[2]?.toLowerCase()) {
    case "pt":
      return (n * 4) / 3;
    case "em":
      return n * of;
    case "rem":
      return n * 16;
    case "%":
      return (n / 100) * of;
    default:
      return n;
  }
}

/** The sizes of the font element, 1–7 (HTML, 15.3.4). */
const FONT_SIZES = [10, 13, 16, 18, 24, 32, 48];
const HEADINGS = new Map(Object.entries({ h1: 32, h2: 24, h3: 18.7, h4: 16, h5: 13.3, h6: 10.7 }));

const alignIn = (written: string | undefined): Look["align"] => {
  const side = written?.trim().toLowerCase();
  if (side === "center" || side === "middle") return "center";
  if (side === "right" || side === "end") return "right";
  return side === "left" || side === "start" ? "left" : null;
};

/** The ground of its own that an element has; null for none. */
export const groundOf = ({ attrs, css }: El): string | null =>
  hexIn(css["background-color"]) ?? hexIn(attrs.bgcolor);

/** px of a width that is said; null where none is. */
export const widthOf = ({ attrs, css, tag }: El, within: number): number | null => {
  const said = [attrs.width, css.width, css["max-width"]].flatMap((one) => {
    const px = pxIn(one, within);
    return px !== null && px > 0 ? [px] : [];
  });
  if (said.length === 0) return null;
  // A picture's own width is what it is shown at.
  return tag === "img" ? said[0]! : Math.min(...said);
};

/** Elements whose align attribute is that of what is in them. */
const ALIGNED = new Set(["table", "tbody", "tr", "td", "th", "div", "p"]);
const known = new WeakMap<El, { of: Look; is: Look }>();

/** The look within an element. */
export function lookIn(el: El, of: Look): Look {
  const before = known.get(el);
  if (before?.of === of) return before.is;
  const { tag, attrs, css } = el;
  const font = tag === "font" ? FONT_SIZES[Number(attrs.size) - 1] : undefined;
  const size =
    pxIn(css["font-size"], of.size) ??
    font ??
    HEADINGS.get(tag) ??
    (tag === "small" ? of.size * 0.83 : of.size);
  const aligned = ALIGNED.has(tag) || HEADINGS.has(tag);
  const isTable = tag === "table";
  const is: Look = {
    ground: groundOf(el) ?? of.ground,
    ink:
      hexIn(css.color) ??
      hexIn(attrs.color) ??
      (tag === "body" ? hexIn(attrs.text) : null) ??
      of.ink,
    size: size > 0 ? size : of.size,
    family: css["font-family"] ?? attrs.face ?? of.family,
    // A table that is aligned stands there itself; what is in it is not.
    align:
      tag === "center"
        ? "center"
        : (alignIn(css["text-align"]) ??
          (aligned && !isTable ? alignIn(attrs.align) : null) ??
          (isTable ? null : of.align)),
    dir:
      attrs.dir === "rtl" || css.direction === "rtl"
        ? "rtl"
        : attrs.dir === "ltr" || css.direction === "ltr"
          ? "ltr"
          : of.dir,
    width: Math.min(of.width, widthOf(el, of.width) ?? of.width),
  };
  known.set(el, { of, is });
  return is;
}

const SAYS_PADDING = ["padding", "padding-top", "padding-right", "padding-bottom", "padding-left"];

/** px around what is in an element: top, right, bottom, left. */
export function paddingOf({ css }: El, cell = 0): [number, number, number, number] {
  if (!SAYS_PADDING.some((name) => css[name])) return [cell, cell, cell, cell];
  const parts = (css.padding ?? "")
    .trim()
    .split(/\s+/)
    .map((one) => pxIn(one) ?? 0);
  const [top = cell, right = top, bottom = top, left = right] = css.padding ? parts : [];
  const side = (name: string, other: number) => pxIn(css[`padding-${name}`]) ?? other;
  return [side("top", top), side("right", right), side("bottom", bottom), side("left", left)];
}

const HIDDEN_HEIGHT = /^0(px)?$/;
/** Nobody sees it. */
export function isHidden({ css, attrs }: El): boolean {
  if (css.display === "none" || css.visibility === "hidden" || attrs.hidden !== undefined)
    return true;
  if (css.opacity === "0") return true;
  return HIDDEN_HEIGHT.test(css["max-height"] ?? "") && css.overflow === "hidden";
}
