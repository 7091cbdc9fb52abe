/** Words as shapes, in fonts that ship with the application: a server may have none. */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import opentype from "opentype.js";
import { escapeHtml } from "#core/markup/index.ts";
import type { LETTERINGS } from "#core/pictures/recipe.ts";

export type Lettering = (typeof LETTERINGS)[number];

const FILES: Record<Lettering, { file: string; fallback: string }> = {
  sans: {
    file: "@fontsource/hanken-grotesk/files/hanken-grotesk-latin-700-normal.woff",
    fallback: "sans-serif",
  },
  serif: {
    file: "@fontsource/newsreader/files/newsreader-latin-600-normal.woff",
    fallback: "serif",
  },
};

const require = createRequire(import.meta.url);
const loaded = new Map<Lettering, opentype.Font>();
function fontOf(name: Lettering): opentype.Font {
  let font = loaded.get(name);
  if (!font) {
    const { buffer, byteOffset, byteLength } = readFileSync(require.resolve(FILES[name].file));
    font = opentype.parse(buffer.slice(byteOffset, byteOffset + byteLength));
    loaded.set(name, font);
  }
  return font;
}

/** What XML has no place for (XML 1.0, 2.2) would make the whole picture unreadable. */
export const inXml = (text: string): string =>
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is taken out
  text.toWellFormed().replace(/[\u0000-\u001f\u007f\ufffe\uffff]/g, " ");

export interface Place {
  /** The middle of the words, and the line they stand on, px. */
  readonly x: number;
  readonly y: number;
  /** Of the type, px; smaller where the words would be wider than `room`. */
  readonly size: number;
  readonly room: number;
  readonly ink: string;
  readonly font: Lettering;
}

/** How wide words are, px, and at which size they fit. */
export function fitted(text: string, { size, room, font }: Omit<Place, "x" | "y" | "ink">) {
  const wide = fontOf(font).getAdvanceWidth(text, size);
  return wide > room ? { width: room, size: (size * room) / wide } : { width: wide, size };
}

/** Words of one line as SVG, around a middle, as small as they have to be to fit; letters the font lacks are the system's. */
export function lettering(text: string, place: Place): string {
  const { x, y, size, room, ink, font } = place;
  const own = fontOf(font);
  if (own.stringToGlyphs(text).some(({ index }) => index === 0)) {
    const fit =
      text.length * size > room ? ` textLength="${room}" lengthAdjust="spacingAndGlyphs"` : "";
    return `<text x="${x}" y="${y}" font-size="${size}" font-family="${FILES[font].fallback}" font-weight="700" text-anchor="middle" fill="${ink}"${fit}>${escapeHtml(text)}</text>`;
  }
  const fit = fitted(text, place);
  const path = own.getPath(text, x - fit.width / 2, y, fit.size);
  return `<path d="${path.toPathData(1)}" fill="${ink}"/>`;
}
