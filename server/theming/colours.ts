/** The colours of images and pages, each with how much of it there is. */
import { converter, formatHex, parse } from "culori";
import sharp from "sharp";
import { LIMITS } from "#core/limits.ts";
import type { Weighted } from "#core/theme/proposal.ts";
import type { FontName } from "#core/theme/theme.ts";
import type { Fetcher } from "../fetching/fetcher.ts";

/** An image is looked at this small, px a side: its colours are the same, and noise is not. */
const SIDE = 96;
/** Steps of each channel that are told apart. */
const STEP = 8;

/** Throws an Error where it is no image that can be read. */
export async function coloursOfImage(bytes: Uint8Array): Promise<Weighted[]> {
  const options = { limitInputPixels: LIMITS.pictureSide ** 2, failOn: "error" as const };
  const { data, info } = await sharp(bytes, options)
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
const STACKS: readonly [RegExp, FontName][] = [
  [/mono|courier/i, "mono"],
  [/trebuchet|tahoma/i, "warmSans"],
  [/verdana/i, "wideSans"],
  [/sans|arial|helvetica/i, "plainSans"],
  [/serif|georgia|times/i, "bookSerif"],
];

export interface PageLook {
  readonly name: string;
  readonly colours: readonly Weighted[];
  readonly font: FontName | null;
}

/** What colours and fonts HTML with its CSS names, and how often. */
export function lookOfPage(html: string, css: string): PageLook {
  const text = `${html}\n${css}`.slice(0, LIMITS.pageLook);
  const counts = new Map<string, number>();
  const note = (written: string, weight: number) => {
    const parsed = parse(written);
    if (!parsed || (parsed.alpha ?? 1) < 0.5) return;
    const hex = formatHex(toRgb(parsed));
    counts.set(hex, (counts.get(hex) ?? 0) + weight);
  };
  for (const [written] of text.matchAll(COLOUR)) note(written, 1);
  // What a page says of itself weighs more than all it is made of.
  const own = /<meta[^>]+name=["']?theme-color["']?[^>]+content=["']([^"']{3,40})/i.exec(html)?.[1];
  if (own) note(own, 50);
  const family =
    /body\s*\{[^}]*font-family\s*:\s*([^;}]{1,200})/i.exec(text)?.[1] ??
    /font-family\s*:\s*([^;}"]{1,200})/i.exec(text)?.[1] ??
    "";
  const title = /<title[^>]*>([^<]{1,200})/i.exec(html)?.[1]?.trim() ?? "";
  return {
    name: title.split(/\s[|–—·-]\s/)[0]!.slice(0, 60),
    colours: [...counts].map(([colour, weight]) => ({ colour, weight })),
    font: STACKS.find(([pattern]) => pattern.test(family))?.[1] ?? null,
  };
}

/** Sheets that a page links to and that are read with it. */
const SHEETS = 6;

/** The look of a page at an address. Throws a FetchError. */
export async function lookAtAddress(fetcher: Fetcher, address: string): Promise<PageLook> {
  const page = await fetcher(address, { most: LIMITS.pageLook, accept: "text/html" });
  const html = page.bytes.toString("utf8");
  const links = [...html.matchAll(/<link\b[^>]*>/gi)]
    .map(([tag]) => tag)
    .filter((tag) => /rel=["']?stylesheet/i.test(tag))
    .flatMap((tag) => /href=["']?([^"'\s>]+)/i.exec(tag)?.[1] ?? [])
    .filter((href) => URL.canParse(href, page.address))
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
