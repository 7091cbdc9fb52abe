/** A calm newsletter: a masthead, an opening with an image, two things side by side, a footer. */
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import { footerOf, kitOf, nameOnAccent, type Scenes, templateOf } from "./parts.ts";

export function calmNewsletter(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, columns, heading, text, button, wide, block } = kit;
  const thing = (title: string): [ReturnType<typeof block>[]] => [
    [
      heading(title, 2, { type: { ...PLAIN_TYPE, size: 18 } }),
      text("Two sentences about it, no more."),
    ],
  ];
  return templateOf([
    nameOnAccent(kit),
    band("Opening", [
      wide("field"),
      heading("What this email is about"),
      block("text"),
      button("Read more"),
    ]),
    columns("Two things", [thing("One thing"), thing("Another thing")]),
    footerOf(kit),
  ]);
}
