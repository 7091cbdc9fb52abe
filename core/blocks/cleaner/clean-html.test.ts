import fc from "fast-check";
import { parse } from "parse5";
import { describe, expect, it } from "vitest";
import type { Markup } from "../../markup/index.ts";
import { mergeText, plainContext, prepareBody, type Reader } from "../../merge/index.ts";
import { elements } from "../../testing/elements.ts";
import { DIRECT } from "../../testing/rendered.ts";
import { cleanHtml, htmlText } from "./clean-html.ts";

const reader: Reader = { values: { "contact:name": `"><b>Zoë` }, token: "t" };
const around = {
  ...plainContext("en"),
  links: [],
  parameters: [],
  publicAddress: "https://mail.example.org",
} as never;
const written = (markup: Markup) => mergeText(prepareBody(markup.segments, around, DIRECT), reader);
const clean = (source: string) => {
  const { markup, removed } = cleanHtml(source, "n");
  return { html: written(markup), removed };
};

describe("own HTML", () => {
  it("keeps what an email can show", () => {
    const source =
      '<table width="100%" bgcolor="#ffffff"><tr><td style="padding:4px;color:#112233"><b>Hi</b> <img src="https://x.example/a.png" alt="a" /></td></tr></table>';
    const { html, removed } = clean(source);
    expect(removed).toEqual([]);
    expect(html).toContain('<td style="padding:4px;color:#112233"><b>Hi</b>');
  });

  it.each([
    ["<script>alert(1)</script>", "<script>"],
    ['<p onclick="x()">a</p>', "onclick"],
    ['<p style="position:fixed;top:0;color:red">a</p>', "the style position"],
    ['<a href="javascript:alert(1)">a</a>', "the address javascript:alert(1)"],
    ['<form action="https://evil.example"><input name="a"></form>', "<form>"],
    ['<link rel="stylesheet" href="https://evil.example/a.css">', "<link>"],
    ['<style>@import "https://evil.example"</style>', "<style>"],
    ['<p style="background-color:url(https://evil.example)">a</p>', "the style background-color"],
    ['<iframe src="https://evil.example"></iframe>', "<iframe>"],
    ['<img src="data:text/html,x" alt="">', "the address data:text/html,x"],
    ["<!--[if mso]><b>x</b><![endif]-->", "a comment"],
    ['<div class="nw" id="x">a</div>', "class"],
  ])("takes out %s and says so", (source, what) => {
    const { html, removed } = clean(source);
    expect(removed).toContain(what);
    expect(html).not.toMatch(/script|onclick|position|javascript|evil|data:|mso|class=/);
  });

  it("counts what went more than once", () => {
    expect(clean("<script>1</script><script>2</script>").removed).toEqual(["<script> (2 times)"]);
  });

  it("fills merge tags safely in words, attributes and addresses", () => {
    const source =
      '<p title="for {{ contact.name }}">Dear {{ contact.name | default: "you" }}</p><a href="https://x.example/?n={{ contact.name }}">go</a>';
    const { html } = clean(source);
    expect(html).toContain('title="for &#34;&gt;&lt;b&gt;Zoë"');
    expect(html).toContain("Dear &#34;&gt;&lt;b&gt;Zoë</p>");
    expect(html).toContain('href="https://x.example/?n=%22%3E%3Cb%3EZo%C3%AB"');
  });

  it("makes its links links of the email, which are counted", () => {
    const slots = cleanHtml(
      '<a href="https://x.example/?a=1&amp;b=2">Go <b>there</b></a>',
      "n",
    ).markup.segments.filter((segment) => typeof segment !== "string");
    expect(slots).toEqual([
      {
        slot: "link",
        node: "n",
        to: {
          kind: "web",
          address: {
            type: "line",
            content: [{ type: "text", text: "https://x.example/?a=1&b=2" }],
          },
        },
        words: "Go there",
        as: "html",
      },
    ]);
    // A tag cannot make the host.
    expect(clean('<a href="https://{{ contact.name }}/x">a</a>').removed[0]).toContain(
      "the address",
    );
  });

  it("can do no harm whatever is in it", () => {
    const bits = fc.constantFrom(
      "<script>",
      "</script>",
      "<img src=x onerror=alert(1)>",
      "<svg onload=x>",
      "<a href='jav&#x09;ascript:x'>",
      "<p style='width:expression(x)'>",
      "<td>",
      "</table>",
      "<b",
      ">",
      '"',
      "'",
      "<!--",
      "-->",
      "{{ contact.name }}",
      "<style>",
      "<math>",
      "<iframe srcdoc='<script>'>",
      "\ue0000\ue001",
      "&lt;script&gt;",
      "words",
    );
    fc.assert(
      fc.property(fc.array(bits, { maxLength: 14 }), (parts) => {
        const { html } = clean(parts.join(""));
        for (const element of elements(parse(`<!doctype html><body>${html}`))) {
          expect(["script", "style", "svg", "iframe", "math", "object", "form"]).not.toContain(
            element.tagName,
          );
          for (const { name, value } of element.attrs) {
            expect(name).not.toMatch(/^on|^src(doc|set)$/);
            expect(value).not.toMatch(/javascript:|expression\(/i);
          }
        }
      }),
      { numRuns: 300 },
    );
  });

  it("is plain text too: lines, lists, pictures and addresses", () => {
    const source =
      '<h2>Title</h2><p>Dear {{ contact.name }}<br>two</p><ul><li>one</li><li><a href="https://x.example">go</a></li></ul><img alt="A view" src="https://x.example/a.png">';
    const text = htmlText(source, "n").segments.map((segment) =>
      typeof segment === "string" ? segment : segment.slot === "address" ? "(address)" : "(tag)",
    );
    expect(text.join("")).toBe("Title\nDear (tag)\ntwo\n- one\n- go(address)\n[A view]");
  });
});
