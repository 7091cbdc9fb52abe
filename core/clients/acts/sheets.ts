/** What becomes of whole style elements, and of the names in them. */
import type { Act } from "../family.ts";
import { elementsOf, inSheets, named, remove, textOf } from "../page.ts";

/** Every style element and every linked sheet goes. */
export const dropsSheets: Act = {
  loses: "style elements: no rules for narrow screens, for the dark, no web fonts",
  tries: [
    {
      html: `<style>a{color:red}</style><link rel="stylesheet" href="a.css"><p class="x">a</p>`,
      gives: `<p class="x">a</p>`,
    },
  ],
  on(page) {
    const sheets = [
      ...named(page, "style"),
      ...named(page, "link").filter(({ attribs }) => /stylesheet/i.test(attribs.rel ?? "")),
    ];
    for (const one of sheets) remove(one);
    return sheets.length;
  },
};

/** A style element that is too long, or in which something is not liked, goes as a whole. */
export const dropsSheetsThat = (loses: string, bytes: number, dislikes: RegExp): Act => ({
  loses,
  tries: [
    {
      html: `<style>a{color:red}</style><style>a{background:url(x)}</style>`,
      gives: "<style>a{color:red}</style>",
    },
    { html: `<style>${"a{color:red}".repeat(Math.ceil(bytes / 12) + 1)}</style>`, gives: "" },
  ],
  on(page) {
    const bad = named(page, "style").filter((element) => {
      const css = textOf(element);
      return css.length > bytes || dislikes.test(css);
    });
    for (const one of bad) remove(one);
    return bad.length;
  },
});

const PREFIX = "m_";

/** Ids and classes get other names, everywhere alike; links to places in the email lead nowhere. */
export const prefixesNames: Act = {
  loses: "",
  tries: [
    {
      html: `<style>.a .b{color:red}</style><p class="a c" id="d"><a href="#d">x</a></p>`,
      gives: `<style>.m_a .m_b{color:red}</style><p class="m_a m_c" id="m_d"><a>x</a></p>`,
    },
  ],
  on(page) {
    for (const { attribs } of elementsOf(page)) {
      if (attribs.class) {
        const names = attribs.class.split(/\s+/).filter(Boolean);
        attribs.class = names.map((name) => PREFIX + name).join(" ");
      }
      if (attribs.id) attribs.id = PREFIX + attribs.id;
      if (attribs.href?.startsWith("#")) delete attribs.href;
    }
    inSheets(page, (root) => {
      root.walkRules((rule) => {
        rule.selector = rule.selector.replace(/([.#])(?=[a-z_])/gi, `$1${PREFIX}`);
      });
      return 1;
    });
    return 0;
  },
};
