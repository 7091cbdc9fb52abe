/** A membership that ends: until when it runs, what it brought in a year, and how to go on. */
import { doc, line, paragraph, tag } from "../text/index.ts";
import {
  dear,
  footerOf,
  kitOf,
  nameOnAccent,
  type Part,
  type Scenes,
  templateOf,
} from "./parts.ts";

export function membershipRenewal(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, columns, block, heading, text, button, scene } = kit;
  const card = (title: string, words: string): Part => [
    [block("card", {}, [heading(title, 2, { colour: "ink" }), text(words)])],
  ];
  return templateOf([
    nameOnAccent(kit),
    band("Your year", [
      heading("Another year with us"),
      text(
        dear("friend"),
        "Your membership runs until the end of the month. Thank you for this year.",
      ),
      button("Renew it", { parts: { second: true }, second: line("Write to us first") }),
    ]),
    columns(
      "What it brings",
      [
        card("Come as often as you like", "Both gates, every day, with a guest."),
        card("Be the first to know", "Workshops open for members a week before."),
      ],
      { background: "tint" },
    ),
    band("What you made possible", [
      block("pictureAndWords", { ...scene("field"), level: 2, side: "end" }),
    ]),
    band("Sign-off", [
      block("text", {
        words: doc(
          paragraph(
            "With thanks, ",
            tag("contact:first_name", "friend"),
            ", until soon at the gate.",
          ),
        ),
      }),
    ]),
    footerOf(kit),
  ]);
}
