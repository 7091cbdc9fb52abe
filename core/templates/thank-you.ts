/** Thanks after a gift, a visit or an order: words first, what it made possible in figures, a person's name. */
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import { box, pad } from "../kinds/common.ts";
import { dear, footerOf, kitOf, nameOnSheet, type Part, type Scenes, templateOf } from "./parts.ts";

export function thankYou(scenes: Scenes | null = null) {
  const kit = kitOf(scenes);
  const { band, columns, heading, text, centred, block, scene } = kit;
  const figure = (number: string, of: string): Part => [
    [
      heading(number, 2, { type: { ...PLAIN_TYPE, size: 40 }, box: box(pad(20, 12, 0), "center") }),
      centred(of, 12),
    ],
  ];
  return templateOf([
    nameOnSheet(kit, { layout: "middle", box: box(pad(26, 28, 6), "center") }),
    band("Thanks", [
      heading("Thank you", 1, {
        type: { ...PLAIN_TYPE, size: 44 },
        box: box(pad(16, 28, 8), "center"),
      }),
      text(dear("friend"), "Say what it was that they did, and what came of it, in plain words."),
    ]),
    columns(
      "What it made possible",
      [figure("40", "kinds sown"), figure("12", "school classes"), figure("1", "new greenhouse")],
      { background: "tint" },
    ),
    band("How it looks", [block("captionedPicture", scene("house"))]),
    band("Sign-off", [block("signOff")]),
    footerOf(kit),
  ]);
}
