/** The sixty mistakes of `fixtures/mistakes.md`, each as what it makes of a good email. */
import { createBand, createBlock, createColumn } from "../blocks/index.ts";
import type { EmailProps } from "../blocks/layout.ts";
import { withPlaceholders } from "../blocks/placeholders.ts";
import { TABLE_KINDS } from "../blocks/table-items.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import { createItem } from "../kinds/item.ts";
import type { Picture } from "../kinds/kind.ts";
import { doc, line, phrase, type TextJson } from "../text/index.ts";
import { linkSchema } from "../text/schema.ts";
import { type Scene, web } from "./good-emails.ts";
import { itemsOf } from "./items.ts";
import { ids, PICTURE, picture } from "./rendered.ts";

/** What a mistake makes of an email; null where the document refuses it. */
export type Mistake = (scene: Scene) => Scene | null;

const id = ids("mistake-");

const withRoot = (scene: Scene, props: object): Scene => ({
  ...scene,
  doc: {
    ...scene.doc,
    root: { ...scene.doc.root, props: { ...scene.doc.root.props, ...props } },
  } as EmailDocument,
});
const emailOf = ({ doc: { root } }: Scene) => root.props as unknown as EmailProps;
const envelope =
  (change: object): Mistake =>
  (scene) =>
    withRoot(scene, { envelope: { ...emailOf(scene).envelope, ...change } });
const subject = (...words: Parameters<typeof line>) => envelope({ subject: line(...words) });

/** The same with bands at its end, before what stands last (the footer). */
function withBlocks(scene: Scene, blocks: readonly DocNode[]): Scene {
  const { root } = scene.doc;
  const band = createBand(id, [createColumn(id, blocks)]);
  return { ...scene, doc: { ...scene.doc, root: { ...root, children: [band, ...root.children] } } };
}
const blocks =
  (...made: readonly (() => DocNode)[]): Mistake =>
  (scene) =>
    withBlocks(
      scene,
      made.map((one) => one()),
    );
const text =
  (...words: Parameters<typeof doc>) =>
  () =>
    createBlock("text", id, { words: doc(...words) });
const linked = (words: string, to: object): TextJson => ({
  type: "paragraph",
  content: [
    { type: "text", text: "More at " },
    { type: "text", text: words, marks: [{ type: "link", attrs: { to: to as never } }] },
    { type: "text", text: "." },
  ],
});
const button = (label: string, to: object) => () =>
  createBlock("button", id, { label: line(label), to });
const image =
  (alt: string, props: object = {}) =>
  () =>
    createBlock("image", id, { picture: PICTURE, alt: line(alt), ...props });

const withPictures = (scene: Scene, change: Partial<Picture>): Scene => ({
  ...scene,
  around: {
    ...scene.around,
    pictures: new Map([[PICTURE, picture(PICTURE, { width: 1200, height: 600, ...change })]]),
  },
});

/** Whether the document takes a link at all. */
const refused =
  (to: object): Mistake =>
  (scene) =>
    linkSchema.safeParse(to).success ? withBlocks(scene, [button("There", to)()]) : null;

/** The email with each of its nodes changed. */
function mapped(scene: Scene, change: (node: DocNode) => DocNode | null): Scene {
  const visit = (node: DocNode): DocNode[] => {
    const made = change(node);
    return made ? [{ ...made, children: made.children.flatMap(visit) }] : [];
  };
  return { ...scene, doc: { ...scene.doc, root: visit(scene.doc.root)[0]! } };
}

export const selling =
  (words: string): Mistake =>
  (scene) => {
    const shelf = createBlock("shelf", id);
    const shown = { items: itemsOf("catalogue", PICTURE), perReader: null };
    const made = withBlocks(scene, [shelf, text(words)()]);
    return { ...made, around: { ...made.around, live: new Map([[shelf.id, shown]]) } };
  };
export const walking =
  (words: string): Mistake =>
  (scene) => {
    const events = createBlock("events", id);
    const items = itemsOf("calendar", PICTURE).map((item) => ({
      ...item,
      at: Date.parse("2026-05-16T10:00:00Z"),
      values: { ...item.values, starts: "2026-05-16", zone: "UTC" },
    }));
    const made = withBlocks(scene, [events, text(words)()]);
    return {
      ...made,
      around: { ...made.around, live: new Map([[events.id, { items, perReader: null }]]) },
    };
  };

const table = () => ({
  ...createBlock("table", id, { header: false }),
  children: [
    createItem(TABLE_KINDS.column, id),
    {
      ...createItem(TABLE_KINDS.row, id),
      children: [createItem(TABLE_KINDS.cell, id, { words: doc("Tuesday") })],
    },
  ],
});

/** Blocks of the good emails that say something. */
const OWN_WORDS = new Set("text heading table html button shelf events image".split(" "));
const ENGLISH = [
  "The path is dry and you have the garden for yourselves, with tea from the stove and the bread.",
  "The walls are old and the trees are older, and you will see both of them from the gate.",
];
const FRENCH = [
  "Le sentier est sec et vous avez le jardin pour vous, avec le thé et le pain des amis.",
  "Les murs sont vieux et les arbres le sont plus, et vous les verrez avec nous sur le banc.",
];

const LONG =
  "We would like to tell you that, since the winter has been longer than anybody who has worked here for the last twenty years can remember, and since the brook has stood so high that the lower path could not be used at all, the walks which we had hoped to begin in March will, if the weather holds, begin in May.";

export const MISTAKES: Readonly<Record<number, Mistake>> = {
  1: subject(),
  2: subject(
    "A very long subject that goes on and on about everything there is to see along the brook and in the glasshouse",
  ),
  3: subject("THE BROOK IS DRY AGAIN"),
  4: subject("The brook is dry again!!!"),
  5: (scene) => subject(scene.around.lastSubject ?? "")(scene),
  6: subject("Nine walks along the brook, 9 of them new"),
  7: subject("Come on 23 August"),
  8: subject("See you on Wednesday"),
  9: envelope({ preview: line() }),
  10: (scene) => envelope({ preview: emailOf(scene).envelope.subject })(scene),
  11: (scene) =>
    envelope({ preview: line("Tea by the stove") })(
      withBlocks(scene, [text("Tea by the stove, and bread from the old oven.")()]),
    ),
  12: envelope({ fromAddress: "" }),
  13: envelope({ fromName: line() }),
  14: envelope({ replyTo: "no-reply@larkmoor.example" }),
  15: subject("Re: the brook"),
  16: blocks(() => {
    const made = createBlock("text", id, { words: doc("Write what is new here.") });
    return { ...made, props: withPlaceholders(made.props, [["words"]]) };
  }),
  17: blocks(text("Lorem ipsum dolor sit amet, consectetur.")),
  18: blocks(text("The gate opens on [insert date].")),
  19: blocks(text("Dear {{first_name}}, come and see.")),
  20: blocks(button("Keep a place", { kind: "none" })),
  21: blocks(text(linked("our pages", { kind: "none" }))),
  22: blocks(button("Keep a place", web("http://localhost:3000/book"))),
  23: blocks(text(linked("our pages", web("https://intranet.larkmoor.local/a")))),
  24: refused(web("https://larkmoor.example/a b")),
  25: refused(web("https://https://larkmoor.example")),
  26: refused({ kind: "mail", address: "garden@" }),
  27: blocks(text(linked("larkmoor.example", web("https://elsewhere.example/a")))),
  28: blocks(text(linked("click here", web("https://larkmoor.example/a")))),
  29: blocks(
    button("Read more", web("https://larkmoor.example/a")),
    button("Read more", web("https://larkmoor.example/b")),
  ),
  30: blocks(text(linked("further down", { kind: "place", node: "gone" }))),
  31: blocks(image("")),
  32: blocks(image("IMG_2034.JPG")),
  33: blocks(image("Image of the old orchard")),
  34: blocks(image("The old orchard. ".repeat(12))),
  35: (scene) => withPictures(withBlocks(scene, [image("The old orchard")()]), { bytes: 520_000 }),
  36: (scene) => {
    const made = withBlocks(
      scene,
      ["b", "c", "d", "e", "f"].map((letter) => image("A tree", { picture: letter.repeat(64) })()),
    );
    const heavy = ["b", "c", "d", "e", "f"].map(
      (letter) =>
        [letter.repeat(64), picture(letter.repeat(64), { width: 1200, bytes: 280_000 })] as const,
    );
    return {
      ...made,
      around: { ...made.around, pictures: new Map([...made.around.pictures, ...heavy]) },
    };
  },
  37: (scene) =>
    withPictures(withBlocks(scene, [image("The old orchard")()]), { width: 300, height: 150 }),
  38: blocks(image("The old orchard", { picture: "9".repeat(64) })),
  39: (scene) =>
    withBlocks(
      mapped({ ...scene, around: { ...scene.around, live: new Map() } }, (node) =>
        OWN_WORDS.has(node.type) ? null : node,
      ),
      [image("Walks in May: the old orchard, the walled garden, the brook")()],
    ),
  40: (scene) => withPictures(withBlocks(scene, [image("The old orchard")()]), { alpha: true }),
  41: blocks(() => createBlock("text", id, { words: doc("Pale words"), colour: "#d8d8d8" })),
  42: (scene) => {
    const { theme } = emailOf(scene);
    const colours = theme.dark!;
    return withRoot(scene, { theme: { ...theme, dark: { ...colours, ink: colours.sheet } } });
  },
  43: blocks(() => {
    const made = createBlock("text", id, { words: doc("Small print") });
    return {
      ...made,
      props: {
        ...made.props,
        type: { ...(made.props.type as object), size: 11 },
      } as DocNode["props"],
    };
  }),
  44: blocks(
    () => createBlock("heading", id, { words: phrase("One"), level: 1 }),
    () => createBlock("heading", id, { words: phrase("Three"), level: 3 }),
  ),
  45: blocks(table),
  46: blocks(text("THE OLD ORCHARD IS OPEN AGAIN AND SO ARE THE WALKS ALONG THE BROOK")),
  47: blocks(text(LONG)),
  48: (scene) => {
    const french = emailOf(scene).lang.startsWith("fr");
    const others = mapped(scene, (node) => (OWN_WORDS.has(node.type) ? null : node));
    return withBlocks(others, [text(...(french ? ENGLISH : FRENCH))()]);
  },
  49: blocks(text("Come to the the old orchard.")),
  50: blocks(text("See you on Friday 16 May 2026.")),
  51: blocks(text("The gate opens on 2 April 2026.")),
  52: walking("The dawn chorus begins at 4:30 by the gate."),
  53: selling("The meadow mix is £9.90 this week."),
  54: (scene) =>
    mapped(scene, (node) =>
      node.type === "footer" ? { ...node, props: { ...node.props, unsubscribe: false } } : node,
    ),
  55: (scene) => ({
    ...scene,
    around: { ...scene.around, brand: { ...scene.around.brand, postalAddress: "" } },
  }),
  56: blocks(text("The brook is dry, and the path along it is open again. ".repeat(2_200))),
  57: blocks(
    text({
      type: "paragraph",
      content: [
        { type: "text", text: "Dear " },
        { type: "tag", attrs: { ref: "contact:first_name", fallback: null, format: null } },
      ],
    }),
  ),
  58: blocks(text("Act now, this is 100 % free and guaranteed: last chance!")),
  59: blocks(() =>
    createBlock("html", id, {
      source: `<div style="display:flex"><p style="margin-left:-40px">Aside</p></div>`,
    }),
  ),
  60: blocks(text("The glashouse is open untill eight.")),
};
