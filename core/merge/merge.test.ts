import fc from "fast-check";
import { Liquid } from "liquidjs";
import { type DefaultTreeAdapterMap, parse } from "parse5";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { EmailDocument } from "../document/index.ts";
import { toLiquid } from "../export/liquid/index.ts";
import type { Json } from "../json.ts";
import { type CompiledEmail, compile } from "../render/index.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { nastyText } from "../testing/arbitrary-texts.ts";
import { SURROUNDINGS } from "../testing/rendered.ts";
import { doc, LANDINGS, line, type Tag, type TextJson, tag } from "../text/index.ts";
import {
  land,
  linkAddress,
  mergeText,
  plainContext,
  prepare,
  type Reader,
  refsOf,
  tagWords,
  unsigned,
} from "./index.ts";

const surroundings = {
  brand: { name: "Larkmoor & <sons>", postalAddress: 'Brook "Lane" 7\n<Larkmoor>' },
  publicAddress: "https://mail.example.org",
  pictures: SURROUNDINGS.pictures,
};
const TOKEN = "m1-AAAAAAAAAAAAAAAAAAAA";

const readerArbitrary: fc.Arbitrary<Reader> = fc
  .record({
    "contact:first": fc.option(nastyText, { nil: undefined }),
    "contact:joined": fc.constantFrom("2024-06-08", "never", "", undefined),
    "contact:visits": fc.constantFrom(3, 0, 12.55, null, "7"),
    "brand:name": fc.option(nastyText, { nil: undefined }),
  })
  .map((values) => ({ values, token: TOKEN }));

/** The document with every tag replaced by its words for a reader. */
function byHand(document: EmailDocument, reader: Reader): EmailDocument {
  const lang = String(document.root.props.lang);
  const fill = (value: Json, inAddress = false): Json => {
    if (Array.isArray(value)) return value.map((inner) => fill(inner, inAddress));
    if (typeof value !== "object" || value === null) return value;
    const node = value as unknown as TextJson;
    if (node.type === "tag") {
      const words = tagWords(node.attrs as unknown as Tag, reader, plainContext(lang));
      // Where a text would be left without words its part is left out, which merging cannot know.
      if (words.trim() === "") return value;
      const { attrs: _attrs, ...rest } = node;
      const text = inAddress ? land(words, LANDINGS.partHtml) : words;
      return { ...rest, type: "text", text } as unknown as Json;
    }
    return Object.fromEntries(
      Object.entries(value as Record<string, Json>).map(([key, inner]) => [
        key,
        fill(inner, inAddress || key === "address"),
      ]),
    );
  };
  const visit = (node: EmailDocument["root"]): EmailDocument["root"] => ({
    ...node,
    props: fill(node.props) as never,
    children: node.children.map(visit),
  });
  return { ...document, root: visit(document.root) };
}

type Element = DefaultTreeAdapterMap["element"];
function* elements(node: DefaultTreeAdapterMap["node"]): Generator<Element> {
  if ("tagName" in node) yield node;
  if ("childNodes" in node) for (const child of node.childNodes) yield* elements(child);
}

describe("merging", () => {
  it("gives what rendering gives with the values put in by hand", () => {
    fc.assert(
      fc.property(documentArbitrary, readerArbitrary, (document, reader) => {
        const options = { links: "tracked", marks: false, sign: unsigned } as const;
        // Links that differ in their tags alone can be the same link once those are filled in: what counts is where they lead.
        const read = (email: CompiledEmail) =>
          mergeText(prepare(email, options).html, reader).replaceAll(
            /https:\/\/[^"]+\/c\/[\w-]+\/(\d+)/g,
            (_, number) => linkAddress(email, Number(number), reader) ?? "nowhere",
          );
        // Values in plain text and headers lose their line breaks; put in by hand they are part of the text.
        expect(read(compile(document, surroundings))).toBe(
          read(compile(byHand(document, reader), surroundings)),
        );
      }),
      { numRuns: 150 },
    );
  });

  it("escapes all text wherever it lands", () => {
    fc.assert(
      fc.property(documentArbitrary, readerArbitrary, (document, reader) => {
        const prepared = prepare(compile(document, surroundings), {
          links: "direct",
          marks: true,
          sign: unsigned,
        });
        const page = parse(mergeText(prepared.html, reader));
        for (const element of elements(page)) {
          expect(["script", "iframe", "object", "form"]).not.toContain(element.tagName);
          for (const { name, value } of element.attrs) {
            expect(name).not.toMatch(/^on/);
            if (name === "href" || name === "src") {
              expect(value).toMatch(/^(https?:\/\/|mailto:|tel:|#at-)/);
              // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is looked for
              expect(value).not.toMatch(/[\s\u0000-\u001f<>"]/);
            }
          }
        }
        // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is looked for
        expect(mergeText(prepared.subject, reader)).not.toMatch(/[\u0000-\u001f\u2028\u2029]/);
      }),
      { numRuns: 150 },
    );
  });

  it("makes values safe for each place", () => {
    const { html, partHtml, header, addressHtml, addressText } = LANDINGS;
    expect(land(`<b>"&'`, html)).toBe("&lt;b&gt;&#34;&amp;&#39;");
    expect(land(`a b&c/é`, partHtml)).toBe("a%20b%26c%2F%C3%A9");
    expect(land("\ud800", partHtml)).toBe("%EF%BF%BD");
    expect(land("A\r\nBcc: x\u2028y", header)).toBe("A Bcc: x y");
    expect(land("moor\u202ekraL \u2066x", header)).toBe("moorkraL x");
    expect(land("javascript:alert(1)", addressHtml)).toBe("#");
    expect(land("https://a.example/?b=1&c=2", addressHtml)).toBe("https://a.example/?b=1&amp;c=2");
    expect(land("https://a.example/?b=1&c=2", addressText)).toBe("https://a.example/?b=1&c=2");
  });

  it("is the same for the same input", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        const copy = JSON.parse(JSON.stringify(document)) as EmailDocument;
        expect(compile(copy, { ...surroundings })).toEqual(compile(document, surroundings));
      }),
      { numRuns: 40 },
    );
  });
});

describe("tags", () => {
  const words = (t: Tag, value: Json | undefined, lang = "en-GB") =>
    tagWords(t, { values: { "contact:x": value }, token: "" }, plainContext(lang));
  const at = (format: Tag["format"], fallback: string | null = "fallback") =>
    tag("contact:x", fallback, format);

  it("fall back where there is no value", () => {
    for (const value of [undefined, null, ""]) expect(words(at(null), value)).toBe("fallback");
    expect(words(at(null, null), undefined)).toBe("");
    expect(words(at({ type: "date", style: "long" }), "soon")).toBe("fallback");
    expect(words(at({ type: "number", decimals: 0 }), "many")).toBe("fallback");
  });
  it("write zero as a value", () => expect(words(at(null), 0)).toBe("0"));
  it("write dates, numbers and letter case in the email's language", () => {
    expect(words(at({ type: "date", style: "long" }), "2024-06-08")).toBe("8 June 2024");
    expect(words(at({ type: "date", style: "long" }), "2024-06-08", "fr")).toBe("8 juin 2024");
    expect(words(at({ type: "number", decimals: 2 }), 1234.5)).toBe("1,234.50");
    expect(words(at({ type: "number", decimals: 2 }), 1234.5, "fr")).toMatch(/^1.234,50$/);
    expect(words(at({ type: "case", to: "upper" }), "straße")).toBe("STRASSE");
    expect(words(at({ type: "case", to: "title" }), "o’neil mary-ann")).toBe("O’neil Mary-Ann");
  });
});

describe("links", () => {
  const document = createDocument([
    createBand(
      (
        (n) => () =>
          `l${++n}`
      )(0),
      [
        createColumn(
          () => "col",
          [
            createBlock("button", () => "one", {
              label: line("Visit"),
              to: {
                kind: "web",
                address: line("https://example.org/?name=", tag("contact:first", "nobody")),
              },
            }),
            createBlock("text", () => "two", { words: doc("No link") }),
            createBlock("footer", () => "three"),
          ],
        ),
      ],
    ),
  ]);
  const compiled = compile(document, surroundings);
  const reader: Reader = { values: { "contact:first": "A&B c" }, token: TOKEN };

  it("are counted through one token and a number, and lead only where the email says", () => {
    const html = mergeText(
      prepare(compiled, { links: "tracked", marks: false, sign: unsigned }).html,
      reader,
    );
    expect(html).toContain(`href="https://mail.example.org/c/${TOKEN}/1"`);
    expect(html).toContain(`https://mail.example.org/o/${TOKEN}.gif`);
    expect(linkAddress(compiled, 1, reader)).toBe("https://example.org/?name=A%26B%20c");
    expect(linkAddress(compiled, 99, reader)).toBeNull();
    // Unsubscribing and the web version are no counted links.
    expect(linkAddress(compiled, 2, reader)).toBeNull();
  });
  it("lead straight there where clicks are not counted, and nothing tells of opens where those are not", () => {
    const { root } = document;
    const counting = (opens: boolean, clicks: boolean) => {
      const doc = {
        ...document,
        root: { ...root, props: { ...root.props, counts: { opens, clicks } } },
      };
      const options = { links: "tracked", marks: false, sign: unsigned } as const;
      const html = mergeText(prepare(compile(doc, surroundings), options).html, reader);
      return [html.includes("/o/"), html.includes("/c/"), html.includes(`/u/${TOKEN}`)];
    };
    expect(counting(true, true)).toEqual([true, true, true]);
    expect(counting(false, true)).toEqual([false, true, true]);
    expect(counting(true, false)).toEqual([true, false, true]);
    expect(counting(false, false)).toEqual([false, false, true]);
  });
  it("are the same in HTML and plain text", () => {
    const text = mergeText(
      prepare(compiled, { links: "tracked", marks: false, sign: unsigned }).text,
      reader,
    );
    expect(text).toContain(`Visit: https://mail.example.org/c/${TOKEN}/1`);
    expect(text).toContain(`https://mail.example.org/u/${TOKEN}`);
  });
  it("name the values they need", () => expect(refsOf(compiled)).toEqual(["contact:first"]));
});

describe("the Liquid export", () => {
  it("gives the same bytes as merging", async () => {
    const engine = new Liquid();
    await fc.assert(
      fc.asyncProperty(documentArbitrary, readerArbitrary, async (document, reader) => {
        const compiled = compile(document, surroundings);
        for (const links of ["direct", "tracked"] as const) {
          const template = toLiquid(compiled, { links, sign: unsigned });
          const html = await engine.parseAndRender(template.html, template.variables(reader));
          expect(html).toBe(
            mergeText(prepare(compiled, { links, marks: false, sign: unsigned }).html, reader),
          );
        }
      }),
      { numRuns: 60 },
    );
  });
});

it("names only the places that links of the email lead to, and leads there", () => {
  const inner = createBlock("button", () => "there");
  const button = createBlock("button", () => "here", { to: { kind: "place", node: "there" } });
  const document = createDocument([
    createBand(() => "band", [createColumn(() => "c", [button, inner])]),
  ]);
  const sent = prepare(compile(document, surroundings), {
    links: "tracked",
    marks: false,
    sign: unsigned,
  });
  const html = mergeText(sent.html, { values: {}, token: "t" });
  expect(html).toContain('href="#at-there"');
  expect([...html.matchAll(/ id="([^"]*)"/g)].map((match) => match[1])).toEqual(["at-there"]);
  expect(mergeText(sent.text, { values: {}, token: "t" })).not.toContain("#at-");
});
