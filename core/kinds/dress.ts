/**
 * Colours and styles of an element. A colour that is a role of the theme also leaves a class, by which the
 * dark rules know the element; inline styles carry the light value for every engine.
 */
import { css, type Markup, trusted } from "../text/index.ts";
import { COLOUR_ROLES, type Colour, isRole, resolveColour, type Theme } from "../theme/theme.ts";

/** What a colour is of: the words, the ground, the border. Its first letter begins the class. */
export interface Paint {
  readonly ink?: Colour | null;
  readonly ground?: Colour | null;
  /** Only for the class: the border itself stands among the properties. */
  readonly rule?: Colour | null;
}

const ROLES = Object.keys(COLOUR_ROLES);

/** The class of a role used as words (`i`), ground (`g`) or border (`b`). */
export const roleClass = (letter: "i" | "g" | "b", role: string): string =>
  `${letter}${ROLES.indexOf(role)}`;

/** The attributes `class`, `style` and, for a ground, `bgcolor` where the element is a cell or a table. */
export function dress(
  theme: Theme,
  paint: Paint,
  properties: Record<string, string | number | null | undefined> = {},
  options: { classes?: readonly (string | null | false)[]; cell?: boolean } = {},
): Markup {
  const { ink = null, ground = null, rule = null } = paint;
  const classes = (options.classes ?? []).filter((name): name is string => Boolean(name));
  if (theme.dark) {
    if (ink && isRole(ink)) classes.push(roleClass("i", ink));
    if (ground && isRole(ground)) classes.push(roleClass("g", ground));
    if (rule && isRole(rule)) classes.push(roleClass("b", rule));
  }
  const groundHex = ground && resolveColour(ground, theme);
  const style = css({
    ...properties,
    color: ink && resolveColour(ink, theme),
    "background-color": groundHex,
  });
  const parts = [
    classes.length ? ` class="${classes.join(" ")}"` : "",
    options.cell && groundHex ? ` bgcolor="${groundHex}"` : "",
    style.segments.length ? ` style="${style.segments.join("")}"` : "",
  ];
  return trusted(parts.join(""));
}

/** The dark rules of a theme: for programs that ask for them by media query, and by attribute. */
export function darkRules(theme: Theme): string {
  const { dark } = theme;
  if (!dark) return "";
  const rules = (prefix: (letter: "i" | "g" | "b") => string) =>
    ROLES.flatMap((role) => {
      const hex = dark[role as keyof typeof dark];
      return [
        `${prefix("i")}.${roleClass("i", role)}{color:${hex}!important}`,
        `${prefix("g")}.${roleClass("g", role)}{background-color:${hex}!important}`,
        `${prefix("b")}.${roleClass("b", role)}{border-color:${hex}!important}`,
      ];
    });
  return [
    "@media (prefers-color-scheme:dark){",
    ...rules(() => ""),
    "}",
    // Some phone programs mark what they recoloured by attribute instead of answering the query.
    ...rules((letter) => (letter === "i" ? "[data-ogsc] " : "[data-ogsb] ")),
  ].join("\n");
}
