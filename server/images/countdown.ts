/** The time that is left, drawn as it is at a moment. */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import opentype from "opentype.js";
import { z } from "zod";
import { COUNTDOWN_SHAPE } from "#core/blocks/countdown.ts";
import { escapeHtml } from "#core/markup/index.ts";
import { LANGUAGES, phrases } from "#core/phrases/index.ts";
import { HEX } from "#core/theme/theme.ts";

const hex = z.string().regex(HEX);
export const countdownSettings = z.strictObject({
  until: z.iso.datetime(),
  lang: z.enum(LANGUAGES.map(({ code }) => code) as ["en", "fr"]),
  ink: hex,
  ground: hex,
});
type Settings = z.infer<typeof countdownSettings>;

const MINUTE = 60_000;
/** px */
const WIDTH = 800;
const HEIGHT = Math.round(WIDTH * COUNTDOWN_SHAPE);

/** How many minutes are left, begun ones counted; 0 afterwards. */
export const minuteOf = ({ until }: Pick<Settings, "until">, now: Date): number =>
  Math.max(0, Math.ceil((Date.parse(until) - now.getTime()) / MINUTE));

const require = createRequire(import.meta.url);
let loaded: opentype.Font | null = null;
/** The font that ships with the application: a server may have none. */
function font(): opentype.Font {
  if (!loaded) {
    const file = readFileSync(
      require.resolve("@fontsource/hanken-grotesk/files/hanken-grotesk-latin-700-normal.woff"),
    );
    loaded = opentype.parse(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength));
  }
  return loaded;
}

/** What XML has no place for (XML 1.0, 2.2) would make the whole picture unreadable. */
const inXml = (text: string): string =>
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is taken out
  text.toWellFormed().replace(/[\u0000-\u001f\u007f\ufffe\uffff]/g, " ");

/** Words in the middle of a place, as small as they have to be to fit; letters the font lacks are the system's. */
function words(
  text: string,
  x: number,
  y: number,
  size: number,
  room: number,
  ink: string,
): string {
  const own = font();
  const wide = own.getAdvanceWidth(text, size);
  const fitted = wide > room ? (size * room) / wide : size;
  if (own.stringToGlyphs(text).some(({ index }) => index === 0)) {
    const fit =
      text.length * size > room ? ` textLength="${room}" lengthAdjust="spacingAndGlyphs"` : "";
    return `<text x="${x}" y="${y}" font-size="${size}" font-family="sans-serif" font-weight="700" text-anchor="middle" fill="${ink}"${fit}>${escapeHtml(text)}</text>`;
  }
  const path = own.getPath(text, x - Math.min(wide, room) / 2, y, fitted);
  return `<path d="${path.toPathData(1)}" fill="${ink}"/>`;
}

/** A countdown as it is at a moment; once the time is over, words that say so. */
export function countdownSvg(settings: Settings, after: string, now: Date): string {
  const { ink, ground, lang } = settings;
  const left = minuteOf(settings, now);
  const middle = HEIGHT / 2;
  const figures = [Math.floor(left / 1440), Math.floor(left / 60) % 24, left % 60];
  const third = WIDTH / 3;
  const drawn =
    left === 0
      ? words(inXml(after).trim(), WIDTH / 2, middle + 20, 60, WIDTH - 80, ink)
      : figures
          .map((figure, i) => {
            const x = third * (i + 0.5);
            const unit = phrases(lang).timeUnits[i]!;
            return `${words(String(figure), x, middle + 20, 104, third - 40, ink)}${words(unit, x, middle + 76, 32, third - 40, ink)}`;
          })
          .join("");
  const rules = [1, 2]
    .map(
      (i) =>
        `<path d="M${third * i} 48V${HEIGHT - 48}" stroke="${ink}" stroke-opacity="0.25" stroke-width="2"/>`,
    )
    .join("");
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}"><rect width="${WIDTH}" height="${HEIGHT}" rx="16" fill="${ground}"/>${left > 0 ? rules : ""}${drawn}</svg>`;
}
