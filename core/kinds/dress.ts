/**
 * Colours and styles of an element. A colour that is a role of the theme also leaves a class, by which the
 * dark rules know the element; inline styles carry the light value for every engine.
 */
import { cssText, type Markup, type Properties, trusted } from "../markup/index.ts";
import {
  COLOUR_ROLES,
  type Colour,
  type ColourRole,
  colourOf,
  isRole,
  resolveColour,
  type Theme,
} from "../theme/theme.ts";

/** What a colour is of: the words, the ground, the border. Its first letter begins the class. */
export interface Paint {
  readonly ink?: Colour | null;
  readonly ground?: Colour | null;
  /** Only for the class: the border itself stands among the properties. */
  readonly rule?: Colour | null;
}

const ROLES = Object.keys(COLOUR_ROLES) as ColourRole[];

/** The class of a role used as words (`i`), ground (`g`) or border (`b`). */
export const roleClass = (letter: "i" | "g" | "b", role: string): string =>
  `${letter}${ROLES.indexOf(role as ColourRole)}`;

function withRole(
  classes: string,
  letter: "i" | "g" | "b",
  colour: Colour | null | undefined,
): string {
  if (!colour || !isRole(colour)) return classes;
  return `${classes}${classes ? " " : ""}${roleClass(letter, colour)}`;
}

/** The attributes `class`, `style` and, for a ground, `bgcolor` where the element is a cell or a table. */
export function dress(
  theme: Theme,
  paint: Paint,
  properties: Properties = {},
  options: { classes?: readonly (string | null | false)[]; cell?: boolean } = {},
): Markup {
  const { ink, ground, rule } = paint;
  let classes = "";
  for (const name of options.classes ?? []) if (name) classes += classes ? ` ${name}` : name;
  if (theme.dark) {
    classes = withRole(classes, "i", ink);
    classes = withRole(classes, "g", ground);
    classes = withRole(classes, "b", rule);
  }
  const groundHex = ground ? resolveColour(ground, theme) : null;
  let style = cssText(properties);
  if (ink) style += `${style ? ";" : ""}color:${resolveColour(ink, theme)}`;
  if (groundHex) style += `${style ? ";" : ""}background-color:${groundHex}`;
  let out = "";
  if (classes) out += ` class="${classes}"`;
  if (options.cell && groundHex) out += ` bgcolor="${groundHex}"`;
  if (style) out += ` style="${style}"`;
  return trusted(out);
}

/** The dark value of each role as words, ground and border, behind what `prefix` puts before the class. */
function roleRules({ dark }: Theme, prefix: (letter: "i" | "g" | "b") => string): string[] {
  if (!dark) return [];
  return ROLES.flatMap((role) => {
    const hex = colourOf(dark, role);
    return [
      `${prefix("i")}.${roleClass("i", role)}{color:${hex}!important}`,
      `${prefix("g")}.${roleClass("g", role)}{background-color:${hex}!important}`,
      `${prefix("b")}.${roleClass("b", role)}{border-color:${hex}!important}`,
    ];
  });
}

/** Of two pictures one for light programs and one for dark ones. */
const pairRules = ({ dark }: Theme, prefix: string): string[] =>
  dark ? [`${prefix}.dl{display:none!important}`, `${prefix}.dd{display:block!important}`] : [];

/** Worked out once for a theme, which never changes: an email is compiled at every key. */
function onceFor(rules: (theme: Theme) => readonly string[]) {
  const known = new WeakMap<Theme, readonly string[]>();
  return (theme: Theme): readonly string[] => {
    const made = known.get(theme) ?? rules(theme);
    known.set(theme, made);
    return made;
  };
}

/** The dark rules of a theme, for programs that ask for them by media query. */
export const darkRules = onceFor((theme) => [
  ...roleRules(theme, () => ""),
  ...pairRules(theme, ""),
]);

/** The same for some phone programs, which mark what they recoloured by attribute instead of answering the query. */
export const markedDarkRules = onceFor((theme) => [
  ...roleRules(theme, (letter) => (letter === "i" ? "[data-ogsc] " : "[data-ogsb] ")),
  ...pairRules(theme, "[data-ogsb] "),
]);
