/** Ten emails in which nothing is wrong, and what they are looked at with. */
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { TABLE_KINDS } from "../blocks/table-items.ts";
import type { KnownReaders } from "../checks/index.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import type { Fields } from "../fields/index.ts";
import { createItem } from "../kinds/item.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { phrases } from "../phrases/index.ts";
import { doc, line, paragraph, phrase, tag } from "../text/index.ts";
import { itemsOf } from "./items.ts";
import { ids, PICTURE, picture, SURROUNDINGS } from "./rendered.ts";

/** An email with what the checks are given beside it. */
export interface Scene {
  readonly name: string;
  readonly doc: EmailDocument;
  readonly around: Surroundings;
  readonly fields: Fields;
  readonly readers: KnownReaders | null;
  /** It is a Monday. */
  readonly today: string;
}

export const TODAY = "2026-05-04";
const NOW = Date.parse(`${TODAY}T09:00:00Z`);
export const fields: Fields = new Map([
  ["first_name", { id: "first_name", label: "First name", type: "text" as const }],
  ["language", { id: "language", label: "Language", type: "text" as const }],
]);
export const web = (address: string) => ({ kind: "web" as const, address: line(address) });

const around: Surroundings = {
  ...SURROUNDINGS,
  pictures: new Map([[PICTURE, picture(PICTURE, { width: 1200, height: 600, bytes: 90_000 })]]),
  lastSubject: "What April brought",
};
export const knownOf = (readers: Partial<KnownReaders> = {}): KnownReaders => ({
  conditions: [],
  groups: [{ bits: "", people: 40, sample: 1 }],
  problems: [],
  today: TODAY,
  now: NOW,
  ...readers,
});

const envelope = {
  fromName: line("Larkmoor"),
  fromAddress: "news@larkmoor.example",
  replyTo: "garden@larkmoor.example",
  subject: line("The brook is dry again"),
  preview: line("Eleven kinds are in flower, and the gate stays open later"),
};
const SENTENCE =
  "The path along the brook is dry again, and eleven kinds are in flower between the old trees and the wall.";
const FRENCH =
  "Le sentier le long du ruisseau est sec, et onze espèces sont en fleur entre les vieux arbres et le mur.";

type NewId = () => string;
const heading = (id: NewId, words: string, level: 1 | 2 | 3 = 1) =>
  createBlock("heading", id, { words: phrase(words), level });
const text = (id: NewId, ...words: Parameters<typeof doc>) =>
  createBlock("text", id, { words: doc(...words) });
const image = (id: NewId, alt = "Eleven kinds of flowers along the brook") =>
  createBlock("image", id, { picture: PICTURE, alt: line(alt) });
const button = (id: NewId, label: string, address: string) =>
  createBlock("button", id, { label: line(label), to: web(address) });

function table(id: NewId): DocNode {
  const cell = (words: string) => createItem(TABLE_KINDS.cell, id, { words: doc(words) });
  const row = (...cells: string[]) => ({
    ...createItem(TABLE_KINDS.row, id),
    children: cells.map(cell),
  });
  const column = () => createItem(TABLE_KINDS.column, id);
  return createBlock("table", id, {}, [
    column(),
    column(),
    row("Day", "Walk"),
    row("Tuesday", "The old orchard"),
    row("Thursday", "The walled garden"),
  ]);
}

function scene(
  name: string,
  blocks: (id: NewId) => readonly DocNode[],
  {
    props = {},
    subject = {},
    live = false,
    footer = {},
  }: { props?: object; subject?: object; live?: boolean; footer?: object } = {},
): Scene {
  const id = ids(`${name}-`);
  const all = [...blocks(id), createBlock("footer", id, footer)];
  const document = createDocument([createBand(id, [createColumn(id, all)])], {
    envelope: { ...envelope, ...subject },
    ...props,
  });
  const shown = new Map(
    document.root.children
      .flatMap((band) => band.children.flatMap((column) => column.children))
      .filter(({ type }) => type === "shelf" || type === "events")
      .map((node) => [
        node.id,
        {
          items: itemsOf(node.type === "shelf" ? "catalogue" : "calendar", PICTURE).map((item) => ({
            ...item,
            at: Date.parse("2026-05-16T10:00:00Z"),
            values: { ...item.values, starts: "2026-05-16", zone: "UTC" },
          })),
          perReader: null,
        },
      ]),
  );
  return {
    name,
    doc: document,
    around: live ? { ...around, live: shown } : around,
    fields,
    readers: knownOf(),
    today: TODAY,
  };
}

export const goodEmails = (): Scene[] => [
  scene("letter", (id) => [
    text(id, paragraph("Dear ", tag("contact:first_name", "gardener"), ","), SENTENCE),
    text(id, "We look forward to seeing you, whatever the weather does."),
  ]),
  scene("newsletter", (id) => [
    heading(id, "Along the brook"),
    image(id),
    text(id, SENTENCE),
    button(id, "See what is in flower", "https://larkmoor.example/brook"),
    heading(id, "In the glasshouse", 2),
    text(id, "The lamps burn until eight on Thursdays, and there is tea by the stove."),
    button(id, "Keep a place by the stove", "https://larkmoor.example/glasshouse"),
  ]),
  scene("table", (id) => [heading(id, "Walks of the week"), text(id, SENTENCE), table(id)]),
  scene(
    "dates",
    (id) => [
      heading(id, "Two walks in May"),
      text(
        id,
        "Saturday 16 May, from 10:00, and Sunday 17 May 2026, from 14:30: bring good boots.",
      ),
      text(id, "We have led walks here since 12 June 1932, and the paths are still the same."),
    ],
    { subject: { subject: line("Two walks on 16 May and 17 May") } },
  ),
  scene("french", (id) => [heading(id, "Au bord du ruisseau"), text(id, FRENCH)], {
    props: { lang: "fr" },
    footer: {
      why: doc("Vous recevez ce message parce que vous avez demandé nos nouvelles."),
      sentTo: line("Envoyé à ", tag("contact:email"), "."),
      webVersionLabel: line(phrases("fr").webVersion),
      preferencesLabel: line(phrases("fr").preferencesLink),
      unsubscribeLabel: line(phrases("fr").unsubscribe),
    },
    subject: {
      subject: line("Le sentier est sec"),
      preview: line("Onze espèces, et le portail ouvert plus tard"),
    },
  }),
  scene(
    "catalogue",
    (id) => [heading(id, "From the seed shop"), text(id, SENTENCE), createBlock("shelf", id)],
    {
      live: true,
    },
  ),
  scene(
    "events",
    (id) => [heading(id, "What is on"), text(id, SENTENCE), createBlock("events", id)],
    {
      live: true,
    },
  ),
  scene("picture", (id) => [
    image(id, "The glasshouse lit from inside in the evening"),
    text(id, SENTENCE),
    createBlock("divider", id),
    text(id, "Members come in for nothing, and so do the people they bring along."),
  ]),
  scene("html", (id) => [
    text(id, SENTENCE),
    createBlock("html", id, {
      source: `<p>Opened in <b>1932</b>, and never closed since.</p>`,
    }),
  ]),
  scene("question", (id) => [
    heading(id, "Which walk shall it be?"),
    text(id, "Tell us by Friday, and we open the gate for the one that most of you want."),
    button(id, "The old orchard", "https://larkmoor.example/answer/orchard"),
    button(id, "The walled garden", "https://larkmoor.example/answer/wall"),
  ]),
];
