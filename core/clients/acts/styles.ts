/** Styles that a family does not know. */
import type { Act } from "../family.ts";
import { elementsOf, inSheets, redeclare, restyle, type Style } from "../page.ts";

const without =
  (drops: (style: Style, name: string) => boolean) =>
  (name: string) =>
  ([property, value]: Style): string | null =>
    drops([property, value], name) ? null : value;

/** Elements a declaration in a style sheet may be on: nobody knows. */
const ANY = "";

/** Declarations go, on elements and in style sheets. `on`: only on elements it says yes to; sheets are left where it is given. */
export function drops(
  loses: string,
  properties: readonly string[],
  { of, on }: { of?: RegExp; on?: (name: string) => boolean } = {},
): Act {
  const known = new Set(properties);
  const gone = without(
    ([property, value], name) =>
      known.has(property) && (!of || of.test(value)) && (!on || name === ANY || on(name)),
  );
  const [first] = properties as [string];
  const value = of ? (SAMPLES.find((sample) => of.test(sample)) ?? "1px") : "1px";
  const element = on ? ["p", "td", "img"].find(on)! : "p";
  const end = element === "img" ? "" : `</${element}>`;
  return {
    loses,
    tries: [
      {
        html: `<${element} style="color:#111111;${first}:${value}">${end}`,
        gives: `<${element} style="color:#111111">${end}`,
      },
      ...(on
        ? [
            {
              html: `<th style="${first}:${value}"></th>`,
              gives: on("th") ? "<th></th>" : `<th style="${first}:${value}"></th>`,
            },
          ]
        : [
            {
              html: `<style>a{color:red;${first}:${value}}</style>`,
              gives: "<style>a{color:red}</style>",
            },
          ]),
    ],
    on(page) {
      let places = 0;
      for (const one of elementsOf(page)) if (restyle(one, gone(one.name)) > 0) places++;
      return on ? places : places + redeclare(page, gone(ANY));
    },
  };
}
const SAMPLES = ["inline-block", "absolute", "-4px", "url(a.png)"];

/** Rules under an at-rule go: those whose words fit. */
export const dropsAtRules = (loses: string, name: string, words = /./): Act => ({
  loses,
  tries: [
    {
      html: `<style>a{color:red}@${name} screen and (prefers-color-scheme:dark){b{color:blue}}</style>`,
      gives: "<style>a{color:red}</style>",
    },
  ],
  on: (page) =>
    inSheets(page, (root) => {
      let places = 0;
      root.walkAtRules(name, (rule) => {
        if (!words.test(rule.params || " ")) return;
        rule.remove();
        places++;
      });
      return places;
    }),
});

/** Rules with selectors of a kind go. */
export const dropsSelectors = (loses: string, selector: RegExp, sample: string): Act => ({
  loses,
  tries: [
    {
      html: `<style>a{color:red}${sample}{color:blue}</style>`,
      gives: "<style>a{color:red}</style>",
    },
  ],
  on: (page) =>
    inSheets(page, (root) => {
      let places = 0;
      root.walkRules((rule) => {
        if (!selector.test(rule.selector)) return;
        rule.remove();
        places++;
      });
      return places;
    }),
});
