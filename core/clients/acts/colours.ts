/** Colours turned dark by force (`core/theme/forced-dark.ts`). */
import { turned, turnedGround, turnedInk } from "../../theme/forced-dark.ts";
import type { Act } from "../family.ts";
import { elementsOf, named, redeclare, restyle, type Style } from "../page.ts";

const NAMES: Readonly<Record<string, string>> = {
  white: "#ffffff",
  black: "#000000",
  red: "#ff0000",
  green: "#008000",
  blue: "#0000ff",
  gray: "#808080",
  grey: "#808080",
  silver: "#c0c0c0",
  navy: "#000080",
};
const COLOUR = /#[0-9a-f]{6}\b|#[0-9a-f]{3}\b|\brgb\(\s*\d+\s*,\s*\d+\s*,\s*\d+\s*\)|\b[a-z]+\b/gi;

/** A colour of CSS as six hex digits; null for what is none that we know. */
function hexOf(colour: string): string | null {
  const low = colour.toLowerCase();
  if (/^#[0-9a-f]{6}$/.test(low)) return low;
  if (/^#[0-9a-f]{3}$/.test(low)) return `#${[...low.slice(1)].map((c) => c + c).join("")}`;
  const rgb = /^rgb\((.*)\)$/.exec(low)?.[1];
  if (rgb) {
    const channels = rgb
      .split(",")
      .map((c) => Math.min(255, Number(c)).toString(16).padStart(2, "0"));
    return `#${channels.join("")}`;
  }
  return NAMES[low] ?? null;
}

type Turn = (hex: string) => string;
const turning = (value: string, turn: Turn): string =>
  value.replace(COLOUR, (colour) => {
    const hex = hexOf(colour);
    return hex ? turn(hex) : colour;
  });

/** Turns all colours of an email: grounds by one way, words and lines by another. */
export function turnsColours(ground: Turn, ink: Turn): Act {
  const styled = ([property, value]: Style): string => {
    if (/url\(/i.test(value)) return value;
    if (/^background(-color)?$/.test(property)) return turning(value, ground);
    if (property === "color") return turning(value, ink);
    if (/^border/.test(property) || property === "outline") return turning(value, ink);
    return value;
  };
  const page = `<style>html{background:${ground("#ffffff")};color:${ink("#000000")}}</style>`;
  return {
    loses: "its own colours",
    tries: [
      {
        html: `<td bgcolor="#ffffff" style="color:#000;background-color:white;padding:4px">x</td>`,
        gives: `<td bgcolor="${ground("#ffffff")}" style="color:${ink("#000000")};background-color:${ground("#ffffff")};padding:4px">x</td>`,
      },
      {
        html: `<html><head></head><body>x</body></html>`,
        gives: `<html><head>${page}</head><body>x</body></html>`,
      },
    ],
    before: (html) => ({
      // Under all that the email says itself: what has no colour is white with black words elsewhere.
      html: html.replace(
        /<head[^>]*>/i,
        (head) => `${head}<style>html{background:#ffffff;color:#000000}</style>`,
      ),
      places: 0,
    }),
    on(page) {
      let places = redeclare(page, styled);
      for (const one of elementsOf(page)) {
        places += restyle(one, styled) > 0 ? 1 : 0;
        if (one.attribs.bgcolor) one.attribs.bgcolor = turning(one.attribs.bgcolor, ground);
        if (one.name === "font" && one.attribs.color) {
          one.attribs.color = turning(one.attribs.color, ink);
        }
      }
      // It decides by itself, whatever the email has to say of the dark.
      for (const meta of named(page, "meta")) {
        if (/color-scheme/.test(meta.attribs.name ?? "")) meta.attribs.content = "light";
      }
      return places;
    },
  };
}

export const turnsAll = turnsColours(turned, turned);
export const turnsLight = turnsColours(turnedGround, turnedInk);
