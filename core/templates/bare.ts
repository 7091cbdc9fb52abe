/** Bare layouts: an arrangement of columns and nothing said yet. */
import { footerOf, kitOf, nameOnSheet, type Part, templateOf } from "./parts.ts";

const placed = (of: (kit: ReturnType<typeof kitOf>) => Parameters<typeof templateOf>[0]) => () => {
  const kit = kitOf(null);
  return templateOf([nameOnSheet(kit), ...of(kit), footerOf(kit)]);
};

export const oneColumn = placed(({ band, block, heading, text }) => [
  band("Words", [heading("What this is about"), text("Write here."), block("button")]),
]);

export const twoColumns = placed(({ band, columns, block, heading, text }) => {
  const column = (): Part => [[block("image"), heading("A title", 2), text("Write here.")]];
  return [
    band("Opening", [heading("What this is about")]),
    columns("Two columns", [column(), column()]),
    columns("Two more", [column(), column()]),
  ];
});

export const wideAndNarrow = placed(({ columns, block, heading, text }) => [
  columns("Main and side", [
    [[heading("What this is about"), text("Write here."), block("button")], 2],
    [[block("image"), heading("Beside it", 2), text("Write here.")], 1],
  ]),
]);
