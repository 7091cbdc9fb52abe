/** The time that is left, drawn as it is at a moment. */
import { z } from "zod";
import { COUNTDOWN_SHAPE } from "#core/blocks/countdown.ts";
import { LANGUAGES, phrases } from "#core/phrases/index.ts";
import { HEX } from "#core/theme/theme.ts";
import { inXml, lettering } from "./lettering.ts";

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

const words = (text: string, x: number, y: number, size: number, room: number, ink: string) =>
  lettering(text, { x, y, size, room, ink, font: "sans" });

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
