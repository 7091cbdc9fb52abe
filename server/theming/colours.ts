/** The colours of images and pages, each with how much of it there is. */
import { converter, formatHex, parse } from "culori";
import { Parser } from "htmlparser2";
import sharp from "sharp";
import { LIMITS } from "#core/limits.ts";
import type { Weighted } from "#core/theme/proposal.ts";
import { type FontName, fontLike } from "#core/theme/theme.ts";
import type { Fetcher } from "../fetching/fetcher.ts";
import type { Services } from "../services.ts";

/** An image is looked at this small, px a side: its colours are the same, and noise is not. */
const SIDE = 96;
/** Steps of each channel that are told apart. */
const STEP = 8;

/**
 * The colours of a file from outside. It is drawn in the process that can be ended first; what comes of that can be
 * trusted. Throws a PictureError where it is no image.
 */
export async function coloursOfImage(
  { pictures }: Pick<Services, "pictures">,
  bytes: Uint8Array,
): Promise<Weighted[]> {
  const made = await pictures.convert(Buffer.from(bytes));
  const { data, info } = await sharp(made.data)
    .resize(SIDE, SIDE, { fit: "inside", withoutEnlargement: true })
    .ensureAlpha()
    .toColourspace("srgb")
    .raw()
    .toBuffer({ resolveWithObject: true });
  const counts = new Map<string, number>();
  const near = (of: number) => Math.min(255, Math.round(of / STEP) * STEP);
  for (let i = 0; i < data.length; i += info.channels) {
    // What is transparent is not of it.
    if (data[i + 3]! < 128) continue;
    const hex = `#${[0, 1, 2]
      .map((c) =>
        near(data[i + c]!)
          .toString(16)
          .padStart(2, "0"),
      )
      .join("")}`;
    counts.set(hex, (counts.get(hex) ?? 0) + 1);
  }
  return [...counts].map(([colour, weight]) => ({ colour, weight }));
}

const COLOUR = /#[0-9a-f]{3,8}\b|(?:rgb|hsl|oklch|oklab|lab|lch)a?\([^)]{1,60}\)/gi;
const toRgb = converter("rgb");
export interface PageLook {
  readonly name: string;
  readonly colours: readonly Weighted[];
  readonly font: FontName | null;
}

interface Page {
  readonly title: string;
  /** What it says of its own colour. */
  readonly own: string;
  readonly sheets: readonly string[];
  readonly css: string;
}

/** What a page says of its look; read once, however it is made. */
function pageIn(html: string): Page {
  let [title, own, css] = ["", "", ""];
  const sheets: string[] = [];
  let within = "";
  const parser = new Parser({
    onopentag(tag, { name = "", content = "", rel = "", href = "", style }) {
      within = tag;
      if (tag === "meta" && name.toLowerCase() === "theme-color") own ||= content;
      if (tag === "link" && /stylesheet/i.test(rel) && href) sheets.push(href);
      if (style) css += `${tag}{${style}}\n`;
    },
    ontext(text) {
      if (within === "title") title += text;
      if (within === "style") css += text;
    },
    onclosetag() {
      within = "";
    },
  });
  parser.end(html);
  return { title: title.trim(), own, sheets, css };
}

const FAMILY = /font-family\s*:([^;}]{1,200})/i;
/** The font of running words: that of the body, or the first that is named. */
function fontIn(css: string): FontName | null {
  const rules = css.split("}").filter((rule) => FAMILY.test(rule));
  const rule = rules.find((one) => /(^|[\s,;>])body[\s,{]/i.test(one)) ?? rules[0];
  return rule ? fontLike(FAMILY.exec(rule)![1]!) : null;
}

/** What colours and fonts a page with its sheets names, and how often. */
export function lookOfPage(html: string, sheets = ""): PageLook {
  const { title, own, css } = pageIn(html);
  // Who gives only CSS gives it as what no page would be.
  const all = `${css}\n${sheets}\n${css === "" ? html : ""}`.slice(0, LIMITS.pageLook);
  const counts = new Map<string, number>();
  const note = (written: string, weight: number) => {
    const parsed = parse(written);
    if (!parsed || (parsed.alpha ?? 1) < 0.5) return;
    const hex = formatHex(toRgb(parsed));
    counts.set(hex, (counts.get(hex) ?? 0) + weight);
  };
  for (const [written] of all.matchAll(COLOUR)) note(written, 1);
  // What a page says of itself weighs more than all it is made of.
  if (own) note(own, OWN + 1);
  return {
    name: title.split(/\s[|–—·-]\s/)[0]!.slice(0, 60),
    colours: [...counts].map(([colour, weight]) => ({ colour, weight })),
    font: fontIn(all),
  };
}
const OWN = 50;

/** Sheets that a page links to and that are read with it. */
const SHEETS = 6;

/** The look of a page at an address. Throws a FetchError. */
export async function lookAtAddress(fetcher: Fetcher, address: string): Promise<PageLook> {
  const page = await fetcher(address, { most: LIMITS.pageLook, accept: "text/html" });
  const html = page.bytes.toString("utf8");
  const links = pageIn(html)
    .sheets.filter((href) => URL.canParse(href, page.address))
    .slice(0, SHEETS);
  const sheets = await Promise.all(
    links.map((href) =>
      fetcher(new URL(href, page.address).href, { most: LIMITS.pageLook, accept: "text/css" }).then(
        ({ bytes }) => bytes.toString("utf8"),
        // A sheet that is not there is no reason to know nothing.
        () => "",
      ),
    ),
  );
  return lookOfPage(html, sheets.join("\n"));
}
