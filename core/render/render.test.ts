import fc from "fast-check";
import { type DefaultTreeAdapterMap, parse } from "parse5";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { BandProps } from "../blocks/layout.ts";
import type { EmailDocument } from "../document/index.ts";
import { wrapText } from "../markup/index.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { rendered, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, phrase } from "../text/index.ts";
import { columnWidths, compile, compileNode, split } from "./index.ts";

const surroundings = SURROUNDINGS;
const htmlOf = (document: EmailDocument, marks = false) => rendered(document, { marks }).html;

let n = 0;
const id = () => `r${++n}`;
const one = (...blocks: ReturnType<typeof createBlock>[]) =>
  createDocument([createBand(id, [createColumn(id, blocks)])]);

type Node = DefaultTreeAdapterMap["node"];
const walk = function* (node: Node): Generator<DefaultTreeAdapterMap["element"]> {
  if ("tagName" in node) yield node;
  if ("childNodes" in node) for (const child of node.childNodes) yield* walk(child);
};
const attr = (element: DefaultTreeAdapterMap["element"], name: string) =>
  element.attrs.find((a) => a.name === name)?.value;

describe("widths", () => {
  it("add up to the whole, whatever the shares", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 700 }),
        fc.array(fc.double({ min: 1, max: 100, noNaN: true }), { minLength: 1, maxLength: 4 }),
        (total, shares) => {
          const widths = split(total, shares);
          expect(widths.reduce((a, b) => a + b, 0)).toBe(total);
          for (const width of widths) expect(Number.isInteger(width) && width >= 0).toBe(true);
        },
      ),
    );
  });
  it("of a band's columns add up to the email's", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        const width = Number(document.root.props.width);
        for (const band of document.root.children) {
          const { padding, outer, border, fullWidth } = band.props as unknown as BandProps;
          const around =
            padding.left +
            padding.right +
            outer.left +
            outer.right +
            (fullWidth ? 0 : 2 * border.width);
          expect(columnWidths(band, width).reduce((a, b) => a + b, 0) + around).toBe(width);
        }
      }),
      { numRuns: 50 },
    );
  });
});

describe("the HTML", () => {
  it("is read without error and has every table for layout marked as such", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        const errors: string[] = [];
        const page = parse(htmlOf(document), {
          onParseError: (error) => errors.push(error.code),
          sourceCodeLocationInfo: false,
        });
        // Characters that HTML cannot hold are the writer's; nothing else may be wrong.
        expect(
          errors.filter((code) => !/control-character|noncharacter|unexpected-null/.test(code)),
        ).toEqual([]);
        for (const element of walk(page)) {
          if (element.tagName === "table") {
            // The table block is one of data; its cells are read with their headers.
            const data = attr(element, "style")?.includes("border-collapse");
            expect(attr(element, "role")).toBe(data ? undefined : "presentation");
            for (const name of ["cellpadding", "cellspacing"]) {
              expect(attr(element, name)).toBe("0");
            }
          }
          if (element.tagName === "img") {
            expect(attr(element, "alt")).toBeDefined();
            // What stands in HTML of one's own is as its writer wanted it.
            if (attr(element, "src")?.startsWith(SURROUNDINGS.publicAddress)) {
              expect(Number(attr(element, "width"))).toBeGreaterThan(0);
            }
          }
        }
      }),
      { numRuns: 80 },
    );
  });

  it("uses nothing that mail programs drop or choke on", () => {
    const document = one(
      createBlock("heading", id),
      createBlock("button", id),
      createBlock("footer", id),
    );
    const html = htmlOf(document);
    const styles = [...html.matchAll(/style="([^"]*)"/g)].map((match) => match[1]!).join(";");
    expect(styles).not.toMatch(/!important|var\(|calc\(|rgba?\(|rem\b|(^|;)background:|(^|;)font:/);
    expect(styles).not.toMatch(/#[0-9a-f]{3}(;|$|")/i);
    // Also on sheets, which have the rules for every block there is.
    const [rules] = rendered(document, { marks: true }).html.match(/<style>[\s\S]*?<\/style>/)!;
    expect(rules).toContain(".st .sx{");
    expect(rules.length).toBeLessThan(8_000);
    expect(rules).not.toContain("url(");
    // What only the table-only engine knows stands in conditional comments.
    // The preview text alone is hidden from that engine where it stands.
    expect(html.replace(/<!--[\s\S]*?-->/g, "").match(/mso-[a-z]+:/g)).toEqual(["mso-hide:"]);
    expect(html).toContain(".nr,.nt,.nb,.sl,.dd{mso-hide:all}");
  });

  it("gives the table-only engine exact widths in conditional comments", () => {
    const columns = [1, 2].map((share) => createColumn(id, [createBlock("text", id)], share));
    const html = htmlOf(createDocument([createBand(id, columns)]));
    expect(html).toContain('<td width="200" valign="top" style="width:200px"><![endif]-->');
    expect(html).toContain('<td width="400" valign="top" style="width:400px"><![endif]-->');
    expect(html.match(/<!--\[if mso\]>/g)!.length).toBe(html.match(/<!\[endif\]-->/g)!.length);
  });

  it("keeps columns side by side where that is wanted", () => {
    const columns = [1, 1].map(() => createColumn(id, [createBlock("text", id)]));
    const html = htmlOf(createDocument([createBand(id, columns, { onNarrow: "keep" })]));
    expect(html).not.toContain("inline-block");
    expect(html).toContain('width="300"');
  });

  it("hides what is only for one width", () => {
    const html = htmlOf(
      one(createBlock("text", id, { show: "wide" }), createBlock("text", id, { show: "narrow" })),
    );
    expect(html).toContain('class="nw"');
    expect(html).toContain('class="nr" style="display:none"');
  });

  it("names nodes and texts only on the sheet", () => {
    const document = one(createBlock("heading", () => "head"));
    expect(htmlOf(document, true)).toContain('data-node="head"');
    expect(htmlOf(document)).not.toMatch(/ data-/);
  });
});

describe("one node", () => {
  it("is compiled to the very element that stands in the whole", () => {
    const document = one(
      createBlock("heading", () => "head", { words: phrase("Alone") }),
      createBlock("text", id),
    );
    const whole = compile(document, surroundings);
    const part = compileNode(document, "head", surroundings)!;
    const text = (segments: typeof whole.html) =>
      segments.map((s) => (typeof s === "string" ? s : `[${s.slot}]`)).join("");
    expect(text(whole.html)).toContain(text(part.segments));
    expect(compileNode(document, "nobody", surroundings)).toBeNull();
  });
});

describe("plain text", () => {
  it("has the words, the addresses and the list of the same document", () => {
    const document = one(
      createBlock("heading", id, { words: phrase("Title") }),
      createBlock("text", id, {
        words: doc("Words.", {
          type: "bullet_list",
          content: ["one", "two"].map((text) => ({
            type: "list_item",
            content: [{ type: "paragraph", content: [{ type: "text", text }] }],
          })),
        }),
      }),
      createBlock("footer", id),
    );
    const text = wrapText(rendered(document).text);
    expect(text).toContain("Title\n=====\n\nWords.\n\n- one\n- two");
    expect(text).toContain("Brook Lane 7\nLarkmoor");
    expect(text).toContain("Unsubscribe: https://mail.example.org/u/t");
  });
});
