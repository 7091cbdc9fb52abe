import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nastyText } from "../testing/arbitrary-texts.ts";
import { LANDINGS, tag } from "../text/index.ts";
import { attrs, css, html, liquidMarkup, oneLine } from "./index.ts";

const flat = (markup: { segments: readonly unknown[] }) => markup.segments.join("");

describe("markup", () => {
  it("escapes whatever is put into it, and nothing twice", () => {
    expect(flat(html`<p>${`<b>&"'`}${html`<i>${"&"}</i>`}</p>`)).toBe(
      "<p>&lt;b&gt;&amp;&#34;&#39;<i>&amp;</i></p>",
    );
    expect(flat(attrs({ title: `"x"`, width: 3, none: null }))).toBe(
      ' title="&#34;x&#34;" width="3"',
    );
    expect(flat(css({ a: `"x"`, b: null, c: 0 }))).toBe("a:&#34;x&#34;;c:0");
  });
  it("keeps angle brackets and quotes out of any text", () => {
    fc.assert(
      fc.property(nastyText, (text) => {
        expect(flat(html`${text}`)).not.toMatch(/[<>"']/);
      }),
    );
  });
});

it("Liquid written by hand is made safe for where it lands, without the marks that plain text is laid out by", () => {
  expect(liquidMarkup("a < b {{ contact.x }}", "html", "n").segments).toEqual([
    "a &lt; b ",
    { slot: "tag", tag: tag("contact:x"), as: LANDINGS.html },
  ]);
  expect(liquidMarkup("a\u001fb\u001c=\nc", "text", "n").segments).toEqual(["ab=\nc"]);
});

it("keep line breaks out of headers", () => {
  expect(oneLine("a\r\nb\u2028c\u0000d")).toBe("a b c d");
});
