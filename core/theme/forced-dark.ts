/**
 * What mail programs that go dark by force do to colours: one kind turns every colour around by its
 * lightness, another only grounds that are light and words that are dark. Both keep hue and chroma as well
 * as they can; the transform here is theirs in outline (CIE L* turned, sRGB clipped).
 */

type Rgb = readonly [number, number, number];
const WHITE: Rgb = [0.95047, 1, 1.08883];

const toLinear = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4);
const fromLinear = (c: number) => (c <= 0.0031308 ? c * 12.92 : 1.055 * c ** (1 / 2.4) - 0.055);
const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116);
const inverse = (t: number) => (t ** 3 > 216 / 24389 ? t ** 3 : (116 * t - 16) / (24389 / 27));

/** A hex colour as CIE L*a*b* (D65): lightness 0–100, and two opposing axes. */
function toLab(hex: string): Rgb {
  const [r, g, b] = [1, 3, 5].map((at) =>
    toLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255),
  ) as unknown as Rgb;
  const x = f((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / WHITE[0]);
  const y = f(0.2126729 * r + 0.7151522 * g + 0.072175 * b);
  const z = f((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / WHITE[2]);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

function fromLab([l, a, b]: Rgb): string {
  const fy = (l + 16) / 116;
  const x = inverse(fy + a / 500) * WHITE[0];
  const y = inverse(fy);
  const z = inverse(fy - b / 200) * WHITE[2];
  const linear = [
    3.2404542 * x - 1.5371385 * y - 0.4985314 * z,
    -0.969266 * x + 1.8760108 * y + 0.041556 * z,
    0.0556434 * x - 0.2040259 * y + 1.0572252 * z,
  ];
  const channels = linear.map((c) =>
    Math.round(255 * Math.min(1, Math.max(0, fromLinear(Math.max(0, c)))))
      .toString(16)
      .padStart(2, "0"),
  );
  return `#${channels.join("")}`;
}

/** The darkest ground such programs use: not black, but nearly. */
const DARKEST = 10;

/** A colour turned around by its lightness. */
export function turned(hex: string): string {
  const [l, a, b] = toLab(hex);
  return fromLab([DARKEST + ((100 - l) * (100 - DARKEST)) / 100, a, b]);
}

const isLight = (hex: string) => toLab(hex)[0] > 50;

/** A ground of which only light ones are turned. */
export const turnedGround = (hex: string): string => (isLight(hex) ? turned(hex) : hex);
/** Words of which only dark ones are turned. */
export const turnedInk = (hex: string): string => (isLight(hex) ? hex : turned(hex));

/** What words and their ground become: where all is turned, and where only light grounds and dark words are. */
export function forcedDark(
  ink: string,
  ground: string,
): readonly [all: { ink: string; ground: string }, half: { ink: string; ground: string }] {
  return [
    { ink: turned(ink), ground: turned(ground) },
    { ink: isLight(ground) ? turnedInk(ink) : ink, ground: turnedGround(ground) },
  ];
}
