/** The draft worth looking at. */
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { box, pad } from "#core/kinds/common.ts";
import type { Rule } from "#core/rules/index.ts";
import { doc, line, paragraph, phrase, tag } from "#core/text/index.ts";
import { HILL, SALTMERE } from "../contacts.ts";
import {
  bandOf,
  counter,
  type DemoPictures,
  envelope,
  firstName,
  footer,
  GARDEN_THEME,
  linked,
  masthead,
  walk,
  web,
  wideImage,
} from "./parts.ts";

const MEMBERS: Rule = {
  type: "field",
  field: "membership",
  op: "among",
  argument: ["Friend", "Patron"],
};
const atSite = (site: number): Rule => ({
  type: "field",
  field: "site",
  op: "isRecord",
  argument: site,
});
/** One of three lines: each reader sees the one for their garden. */
const gate = (id: () => string, words: string, seenBy: Rule | null) =>
  createBlock("text", id, { words: doc(words), seenBy, chain: "gate" });

export function monthlyNewsletter(
  pictures: DemoPictures,
  month: string,
  roll: string,
): EmailDocument {
  const id = counter("m");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      wideImage(
        id,
        pictures["early-flowers"],
        "Rows of early white flowers along the brook at Larkmoor Hill",
        "https://larkmoor.example/visit",
      ),
      createBlock("heading", id, { words: phrase("The early flowers are up") }),
      createBlock("text", id, {
        words: doc(
          paragraph(
            "Dear ",
            firstName("gardener"),
            ", eleven kinds are in flower along the brook this week, and the path from ",
            tag("contact:site", "the gate"),
            " is dry again.",
          ),
          {
            type: "paragraph",
            content: [
              { type: "text", text: "There is a " },
              linked("map of what is out", "https://larkmoor.example/map"),
              { type: "text", text: " at both gates, and benches in the sun until four." },
            ],
          },
        ),
      }),
      gate(id, "At Saltmere the walled garden opens from Wednesday to Sunday.", atSite(SALTMERE)),
      gate(id, "At Larkmoor Hill the gate is open every day until five.", atSite(HILL)),
      gate(id, "Both gardens are open at weekends.", null),
    ]),
    createBand(
      id,
      [
        createColumn(
          id,
          walk(id, {
            picture: pictures["brook-walk"],
            alt: "The brook between two old trees",
            title: "Brook walk",
            words: "Saturday, 10 to 12, with a warm drink at the end.",
            to: "https://larkmoor.example/walks/brook",
          }),
        ),
        createColumn(
          id,
          walk(id, {
            picture: pictures.glasshouse,
            alt: "The glasshouse lit from inside in the evening",
            title: "Glasshouse by lamp",
            words: "Friday evening, for two hours after closing.",
            to: "https://larkmoor.example/walks/glasshouse",
          }),
        ),
      ],
      { name: "Two walks" },
    ),
    bandOf(
      id,
      "Friends’ evening",
      [
        createBlock("heading", id, { words: phrase("Friends’ evening"), level: 2 }),
        createBlock("text", id, {
          words: doc(
            paragraph(
              "You have been with us since ",
              tag("contact:joined", "the beginning", { type: "date", style: "long" }),
              ". As a ",
              tag("contact:membership", "Friend"),
              " you may bring one guest.",
            ),
          ),
        }),
        createBlock("button", id, {
          label: line("Say that you come"),
          to: web("https://larkmoor.example/evening"),
          box: box(pad(8, 28, 24), "start"),
        }),
      ],
      { background: "tint", seenBy: MEMBERS },
    ),
    bandOf(id, "From the seed shop", [
      createBlock("heading", id, { words: phrase("New in the seed shop"), level: 2 }),
      wideImage(id, pictures["seed-packets"], ""),
      createBlock("text", id, {
        words: doc("Three old kinds that do well on heavy ground, saved here since last autumn.", {
          type: "bullet_list",
          content: ["Saltmere sweet pea", "Brook angelica", "Larkmoor marigold"].map((name) => ({
            type: "list_item",
            content: [paragraph(name)],
          })),
        }),
      }),
      createBlock("coupon", id, {
        title: line("Ten per cent off in the seed shop"),
        code: line(tag(`code:${roll}`)),
        terms: line("For you alone, once, until the end of next month."),
      }),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line(firstName(null), `, the early flowers are up: ${month} at Larkmoor`),
      line("Come and see them before the month is out, and two walks by the brook."),
    ),
  });
}
