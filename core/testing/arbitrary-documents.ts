/** Random documents with every setting of every block, and edits that fit them, for property tests. */
import fc from "fast-check";
import { BLOCKS, createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { withValue } from "../document/edits/set.ts";
import {
  type DocNode,
  type EmailDocument,
  holdsBlocks,
  isBlock,
  type SimpleEdit,
  walk,
} from "../document/index.ts";
import type { Json, JsonObject } from "../json.ts";
import type { AnyNodeKind, Control } from "../kinds/kind.ts";
import { line, paragraph } from "../text/index.ts";
import { COLOUR_ROLES, STANDARD_THEME } from "../theme/theme.ts";
import {
  docArbitrary,
  lineArbitrary,
  nastyText,
  phraseArbitrary,
  words,
} from "./arbitrary-texts.ts";
import { PICTURE } from "./rendered.ts";

const webLink = fc.constantFrom(
  { kind: "none" },
  { kind: "web", address: line("https://example.org/a?b=1&c=2") },
  { kind: "mail", address: "hello@example.org" },
  { kind: "file", file: `${"c".repeat(64)}.pdf`, name: "The plan.pdf" },
  { kind: "unsubscribe" },
);

const textArbitrary = { line: lineArbitrary, phrase: phraseArbitrary, doc: docArbitrary };
const fixedColours = fc.constantFrom("#ffffff", "#123456", "#aaaaaa");
const colour = fc.oneof(fc.constantFrom(...Object.keys(COLOUR_ROLES)), fixedColours);
const int = (min: number, max: number) => fc.integer({ min, max });

/** Any value that a control can set. */
function valueFor(control: Control): fc.Arbitrary<unknown> | null {
  switch (control.control) {
    case "number": {
      const number = int(control.min, control.max);
      return control.empty ? fc.option(number, { nil: null }) : number;
    }
    case "day":
      return fc.constantFrom(null, "2026-12-24");
    case "moment":
      return fc.constantFrom(null, "2026-12-24T17:00:00.000Z");
    case "focus":
      return fc.record({ x: int(0, 100), y: int(0, 100) });
    case "choice":
      return fc.constantFrom(...control.options.map(({ value }) => value));
    case "switch":
      return fc.boolean();
    case "colour":
      return control.none ? fc.option(colour, { nil: null }) : colour;
    case "picture":
      return fc.constantFrom(null, PICTURE);
    case "link":
      return webLink;
    case "border":
      return fc.record({ width: int(0, 12), colour });
    case "type":
      return fc.record({
        font: fc.constantFrom(null, "heading", "mono"),
        size: fc.option(int(10, 72), { nil: null }),
        narrow: fc.option(int(10, 72), { nil: null }),
        lineHeight: fc.option(int(100, 220), { nil: null }),
        spacing: int(-20, 100),
        capitals: fc.boolean(),
      });
    case "code":
      return fc
        .array(nastyText, { maxLength: 3 })
        .map((parts) => `<p>${parts.join("</p><p>")}</p>`);
    default:
      return null;
  }
}

const sides = fc.record({
  top: int(0, 40),
  right: int(0, 40),
  bottom: int(0, 40),
  left: int(0, 40),
});
const boxArbitrary = fc.record({
  background: fc.option(colour, { nil: null }),
  padding: sides,
  border: fc.record({ width: int(0, 6), colour }),
  corner: int(0, 20),
  align: fc.constantFrom("start", "center", "end"),
  alignNarrow: fc.constantFrom(null, "center", "end"),
  dir: fc.constantFrom(null, "ltr", "rtl"),
});

/** Properties of any block or item, by what its settings can do: a new type is covered as soon as it is listed. */
function propsFor(kind: AnyNodeKind): fc.Arbitrary<JsonObject> {
  const base = kind.create() as JsonObject;
  const parts: fc.Arbitrary<[readonly string[], unknown]>[] = [];
  const add = (path: readonly string[], value: fc.Arbitrary<unknown>) =>
    parts.push(value.map((one): [readonly string[], unknown] => [path, one]));
  for (const control of [...kind.content, ...kind.style]) {
    const value = valueFor(control);
    if (value && "path" in control) add(control.path, value);
  }
  for (const { path, kind: textKind } of kind.texts) {
    // What a QR code says is bounded; everything else takes any text.
    const short = kind.type === "qrCode" && path[0] === "content";
    add(path, short ? fc.constant(line("https://example.org/x")) : textArbitrary[textKind]);
  }
  if ("box" in base) {
    add(["box"], boxArbitrary);
    add(["show"], fc.constantFrom("both", "both", "wide", "narrow"));
  }
  return fc
    .tuple(...parts)
    .map((all) =>
      all.reduce((props, [path, value]) => withValue(props, path, value as Json), base),
    );
}

type Shape = Omit<DocNode, "id" | "children"> & { readonly children: readonly Shape[] };

/** A block or an item with what it holds, ids aside. */
function shapeFor(kind: AnyNodeKind, depth = 0): fc.Arbitrary<Shape> {
  const held = (kind.holds ?? []).map((item) =>
    fc.array(shapeFor(item, depth + 1), {
      minLength: item.least,
      maxLength: Math.min(item.most, item.least + 2),
    }),
  );
  const blocks =
    "inner" in kind && depth === 0
      ? fc.array(
          fc
            .constantFrom(...BLOCKS.filter(({ type }) => !holdsBlocks(type)))
            .chain((inner) => shapeFor(inner, 1)),
          { maxLength: 2 },
        )
      : fc.constant<Shape[]>([]);
  return fc.tuple(propsFor(kind), fc.tuple(...held), blocks).map(([props, items, inner]) => ({
    type: kind.type,
    props,
    children: [...items.flat(), ...inner],
  }));
}

const bandArbitrary = fc.record({
  background: fc.option(colour, { nil: null }),
  picture: fc.constantFrom(null, null, PICTURE),
  minHeight: fc.constantFrom(0, 0, 200),
  fullWidth: fc.boolean(),
  even: fc.boolean(),
  padding: sides,
  outer: fc.oneof(fc.constant({ top: 0, right: 0, bottom: 0, left: 0 }), sides),
  border: fc.record({ width: int(0, 4), colour }),
  corner: int(0, 20),
  onNarrow: fc.constantFrom("stack", "reverse", "keep"),
  valign: fc.constantFrom("top", "middle", "bottom"),
  show: fc.constantFrom("both", "both", "wide", "narrow"),
});

/** A random email of bands, columns and blocks with every setting they have, with ids n1, n2 … */
export const documentArbitrary: fc.Arbitrary<EmailDocument> = fc
  .tuple(
    fc.array(
      fc.tuple(
        bandArbitrary,
        fc.array(
          fc.array(
            fc.constantFrom(...BLOCKS).chain((kind) => shapeFor(kind)),
            { maxLength: 3 },
          ),
          { minLength: 1, maxLength: 4 },
        ),
      ),
      { maxLength: 3 },
    ),
    lineArbitrary,
    lineArbitrary,
    int(480, 700),
    fc.constantFrom("ltr", "ltr", "rtl"),
    fc.constantFrom("inline", "numbered"),
    fc.boolean(),
  )
  .map(([bands, subject, preview, width, dir, textLinks, dark]) => {
    let n = 0;
    const id = () => `n${++n}`;
    const named = ({ children, ...rest }: Shape): DocNode => ({
      ...rest,
      id: id(),
      children: children.map(named),
    });
    const nodes = bands.map(([props, columns]) =>
      createBand(
        id,
        columns.map((blocks, i) => createColumn(id, blocks.map(named), i + 1)),
        props as never,
      ),
    );
    return createDocument(nodes, {
      width,
      dir: dir as "ltr",
      textLinks: textLinks as "inline",
      theme: dark ? STANDARD_THEME : { ...STANDARD_THEME, dark: null },
      envelope: {
        fromName: line("From"),
        fromAddress: "a@example.org",
        replyTo: "",
        subject,
        preview,
      },
    });
  });

/** A random edit that fits a document, or null where there is none of its kind. */
export const editArbitrary = (document: EmailDocument): fc.Arbitrary<SimpleEdit | null> => {
  const nodes = [...walk(document.root)];
  const ofType = (test: (node: DocNode) => boolean) => nodes.filter(test);
  const columns = ofType((n) => n.type === "column");
  const blocks = ofType((n) => isBlock(n.type));
  const texts = blocks.filter((n) => n.type === "text");
  const choice = <T>(list: readonly T[]) => fc.constantFrom(...list);
  const afterIn = (parent: DocNode) =>
    fc.constantFrom(null, ...parent.children.map((child) => child.id));
  const options: fc.Arbitrary<SimpleEdit | null>[] = [fc.constant(null)];
  if (columns.length) {
    options.push(
      choice(columns).chain((column) =>
        fc.record({
          type: fc.constant("insert" as const),
          parent: fc.constant(column.id),
          after: afterIn(column),
          node: fc
            .nat()
            .map((n) => createBlock("spacer", () => `new${n}`, { height: 4 + (n % 100) })),
        }),
      ),
    );
  }
  const { root } = document;
  options.push(
    fc.constant({
      type: "restore" as const,
      root: { ...root, children: root.children.toReversed().slice(1) },
    }),
  );
  if (blocks.length) {
    options.push(choice(blocks).map((node) => ({ type: "remove" as const, node: node.id })));
    options.push(
      fc.tuple(choice(blocks), choice(columns)).chain(([block, column]) =>
        fc.record({
          type: fc.constant("move" as const),
          node: fc.constant(block.id),
          parent: fc.constant(column.id),
          after: fc.constantFrom(
            null,
            ...column.children.filter((c) => c.id !== block.id).map((c) => c.id),
          ),
        }),
      ),
    );
    options.push(
      fc.tuple(choice(blocks), fc.integer({ min: 0, max: 120 })).map(([block, value]) => ({
        type: "set" as const,
        node: block.id,
        path: ["box", "padding", "top"],
        value,
      })),
    );
  }
  if (texts.length) {
    options.push(
      fc.tuple(choice(texts), words).map(([block, text]) => ({
        type: "text" as const,
        node: block.id,
        path: ["words"],
        steps: [
          {
            stepType: "replace",
            from: 0,
            to: 0,
            slice: { content: [paragraph(text)] },
          } as never,
        ],
      })),
    );
  }
  return fc.oneof(...options);
};
