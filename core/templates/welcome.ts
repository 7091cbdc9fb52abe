/** The first email somebody gets: thanks, what will come and how often, three ways to begin. */
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import {
  dear,
  footerOf,
  kitOf,
  nameOnAccent,
  type Part,
  type Scenes,
  templateOf,
} from "./parts.ts";

export function welcome(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, columns, heading, text, button, block } = kit;
  const way = (title: string, words: string, label: string): Part => [
    [
      heading(title, 2, { type: { ...PLAIN_TYPE, size: 18 }, colour: "ink" }),
      text(words),
      button(label, { look: "outline", colour: "accent" }),
    ],
  ];
  return templateOf([
    nameOnAccent(kit),
    band(
      "Welcome",
      [
        heading("Good that you are here"),
        text(
          dear("friend"),
          "You will hear from us about once a month: what is new, what is on, and nothing else.",
        ),
      ],
      { background: "tint" },
    ),
    columns("Ways to begin", [
      way("Look around", "The page most people begin with.", "See it"),
      way("Come by", "Where we are, and when we are open.", "Plan a visit"),
      way("Ask us", "A person reads every answer to this email.", "Write to us"),
    ]),
    band("Sign-off", [block("signOff")]),
    footerOf(kit),
  ]);
}
