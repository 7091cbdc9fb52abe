import fc from "fast-check";
import { Liquid } from "liquidjs";
import { type DefaultTreeAdapterMap, parse } from "parse5";
import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { toLiquid } from "../export/liquid/index.ts";
import { compile } from "../render/index.ts";
import { nastyText } from "../testing/arbitrary-texts.ts";
import { DIRECT, emailOf, ids, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, LANDINGS, line, paragraph, phrase, tag } from "../text/index.ts";
import { land, linkAddress, mergeText, prepare, type Reader } from "./index.ts";

type Element = DefaultTreeAdapterMap["element"];

const NAME = tag("contact:name");
const own = `<p title="of {{ contact.name }}" style="color:{{ contact.name }};margin:0">Dear {{ contact.name }}</p>
<img src="https://pictures.example/{{ contact.name }}.png" alt="{{ contact.name }}" width="10">
<a href="https://own.example/?q={{ contact.name }}">there</a>`;
const document = emailOf(
  [
    createBlock("text", ids("t"), { words: doc(paragraph("Words ", NAME, "!")) }),
    createBlock("heading", ids("h"), { words: phrase(NAME) }),
    createBlock("button", ids("b"), {
      label: line("Go, ", NAME),
      to: { kind: "web", address: line("https://larkmoor.example/x?n=", NAME, "&z=1") },
    }),
    createBlock("button", ids("w"), {
      label: line("Yours"),
      to: { kind: "web", address: line(tag("contact:site")) },
    }),
    createBlock("html", ids("o"), { source: own }),
    createBlock("image", ids("i"), {
      alt: line("Of ", NAME),
      picture: [...SURROUNDINGS.pictures.keys()][0],
    }),
  ],
  {
    envelope: {
      fromName: line("From ", NAME),
      fromAddress: "a@example.org",
      replyTo: "",
      subject: line("To ", NAME),
      preview: line("For ", NAME),
    },
  },
);
const email = compile(document, SURROUNDINGS);
const prepared = prepare(email, DIRECT);
const reader = (name: string, site = ""): Reader => ({
  values: { "contact:name": name, "contact:site": site },
  token: "t",
});

function elements(html: string): Element[] {
  const found: Element[] = [];
  const visit = (node: DefaultTreeAdapterMap["node"]) => {
    if ("tagName" in node) found.push(node);
    if ("childNodes" in node) node.childNodes.forEach(visit);
  };
  visit(parse(html));
  return found;
}
const attribute = (element: Element, name: string) =>
  element.attrs.find((one) => one.name === name)?.value;
const words = (node: DefaultTreeAdapterMap["node"]): string =>
  "value" in node
    ? String(node.value)
    : "childNodes" in node
      ? node.childNodes.map(words).join("")
      : "";
/** As an HTML parser takes characters in: no NUL, one kind of line end. */
const parsed = (text: string) =>
  text.replaceAll("\0", "").replaceAll("\r\n", "\n").replaceAll("\r", "\n").toWellFormed();

const hostile = fc.oneof(
  nastyText,
  fc.constantFrom(
    "O'Brien",
    "Mary Ann",
    'red" onmouseover="x',
    "red;background-image:url(https://bad.example)",
    "expression(alert(1))",
    "A\r\nBcc: all@example.org",
    "{{ x }}{% endraw %}{% raw %}",
    "</title></style><script>alert(1)</script>",
    "%27&x=<y>#?/\\",
    "\u202egnp.exe",
  ),
);
const nameable = hostile.filter(
  (text) => text !== "" && !/[\0\ud800-\udfff\ufffd\ufffe\uffff]/.test(text),
);

it("a value reads as it is wherever words stand, and brings nothing of its own", () => {
  const plainHtml = mergeText(prepared.html, reader("x"));
  const count = elements(plainHtml).map(({ tagName, attrs }) => [tagName, attrs.length].join());
  fc.assert(
    fc.property(nameable, (name) => {
      const html = mergeText(prepared.html, reader(name));
      const all = elements(html);
      // The same elements with the same attributes: a value adds none.
      expect(all.map(({ tagName, attrs }) => [tagName, attrs.length].join())).toEqual(count);
      const text = words(parse(html));
      expect(text).toContain(`Words ${parsed(name)}!`);
      expect(text).toContain(`Dear ${parsed(name)}`);
      const alts = all.filter((one) => one.tagName === "img").map((one) => attribute(one, "alt"));
      expect(alts).toContain(parsed(name));
      expect(alts).toContain(`Of ${parsed(name)}`);
      expect(all.some((one) => attribute(one, "title") === `of ${parsed(name)}`)).toBe(true);
      const styles = all.map((one) => attribute(one, "style") ?? "");
      const style = styles.find((one) => one.startsWith("color:") && one.endsWith(";margin:0"))!;
      expect(style.slice(6, -9)).not.toMatch(/[;:(){}"'\\/*]/);
    }),
    { numRuns: 200 },
  );
});

it("a value in an address is one part of it, in links, pictures, plain text and redirects", () => {
  fc.assert(
    fc.property(nameable, (name) => {
      const all = elements(mergeText(prepared.html, reader(name)));
      const at = (start: string) =>
        all
          .flatMap((one) => [attribute(one, "href"), attribute(one, "src")])
          .filter((one) => one?.startsWith(start));
      for (const address of [
        ...at("https://larkmoor.example/x?n="),
        linkAddress(email, 1, reader(name)),
      ]) {
        const url = new URL(address!);
        expect(url.searchParams.get("n")).toBe(name);
        expect(url.searchParams.get("z")).toBe("1");
        expect(url.host).toBe("larkmoor.example");
      }
      expect(new URL(at("https://own.example/")[0]!).searchParams.get("q")).toBe(name);
      const picture = at("https://pictures.example/")[0]!;
      expect(decodeURIComponent(new URL(picture).pathname)).toBe(`/${name}.png`);
      const text = mergeText(prepared.text, reader(name));
      const written = /https:\/\/larkmoor\.example\/x\?n=[^\s)]*/.exec(text)![0];
      expect(new URL(written).searchParams.get("n")).toBe(name);
    }),
    { numRuns: 200 },
  );
  expect(linkAddress(email, 1, reader("O'Brien"))).toBe(
    "https://larkmoor.example/x?n=O%27Brien&z=1",
  );
});

it("a whole address of the reader's is taken where it is one, and leads nowhere else", () => {
  const site = email.links.findIndex(({ words: label }) => label === "Yours") + 1;
  const of = (value: string) => linkAddress(email, site, reader("x", value));
  expect(of("https://ada.example/a b?c=d&e='f'")).toBe("https://ada.example/a%20b?c=d&e=%27f%27");
  expect(mergeText(prepared.html, reader("x", "https://ada.example/?a=1&b=2"))).toContain(
    'href="https://ada.example/?a=1&amp;b=2"',
  );
  fc.assert(
    fc.property(
      fc.oneof(hostile, fc.constantFrom("javascript:alert(1)", "//x.example", "")),
      (value) => {
        const address = of(value);
        if (address !== null) expect(address).toMatch(/^https?:\/\//);
        const hrefs = elements(mergeText(prepared.html, reader("x", value))).map((one) =>
          attribute(one, "href"),
        );
        for (const href of hrefs.filter(Boolean))
          expect(href).toMatch(/^(https?:\/\/|mailto:|#|tel:)/);
      },
    ),
    { numRuns: 100 },
  );
});

it("a header stays one line", () => {
  fc.assert(
    fc.property(nameable, (name) => {
      for (const body of [prepared.subject, prepared.fromName]) {
        expect(mergeText(body, reader(name))).not.toMatch(/[\p{Cc}\u2028\u2029\u202a-\u202e]/u);
      }
    }),
    { numRuns: 100 },
  );
});

it("Liquid's own marks in words and values say nothing to a Liquid engine", () => {
  const engine = new Liquid({ outputEscape: undefined });
  const braces = fc.array(
    fc.constantFrom(
      "{",
      "}",
      "{{",
      "}}",
      "{%",
      "%}",
      "{% endraw %}",
      "{% raw %}",
      "a",
      " ",
      "-",
      "|",
    ),
    { maxLength: 7 },
  );
  fc.assert(
    fc.property(braces, nameable, (pieces, name) => {
      const around = pieces.join("") || "x";
      const made = compile(
        emailOf([
          createBlock("text", ids("t"), { words: doc(paragraph(around, NAME, around)) }),
          createBlock("button", ids("b"), { label: line(around, NAME) }),
        ]),
        SURROUNDINGS,
      );
      const { html, text, variables } = toLiquid(made);
      const ours = prepare(made, DIRECT);
      const values = variables(reader(name));
      expect(engine.parseAndRenderSync(html, values)).toBe(mergeText(ours.html, reader(name)));
      expect(engine.parseAndRenderSync(text, values)).toContain(around.trim());
    }),
    { numRuns: 150 },
  );
});

it("every landing is safe for any value", () => {
  fc.assert(
    fc.property(hostile, fc.constantFrom(...Object.values(LANDINGS)), (value, as) => {
      const landed = land(value, as);
      if (as.context !== "text" && as.context !== "header" && as.context !== "redirect") {
        expect(landed).not.toMatch(/[<>"']/);
      } else expect(landed).not.toMatch(/[\r\n]/);
      if (as.encoding === "percent") expect(landed).toMatch(/^[\w.~%-]*$/);
    }),
    { numRuns: 300 },
  );
});
