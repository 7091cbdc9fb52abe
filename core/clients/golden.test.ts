/** What families of mail programs make of blocks, and how blocks are read aloud. */
import { describe, it } from "vitest";
import { asLastLookedAt, lines } from "../testing/golden.ts";
import { PICTURE, rendered } from "../testing/rendered.ts";
import { samples } from "../testing/samples.ts";
import { readAloud } from "./aloud.ts";
import { FAMILIES, showIn } from "./index.ts";

/** Shapes in which together there is something for each of what families do. */
const SHOWN =
  /^(band-(full|framed|keep)|button|button-full|heading-two|image|pictureGrid|table-pairs|text-(rich|framed))$/;
const all = samples([PICTURE]).map(({ name, doc }) => ({
  name,
  html: rendered(doc).html,
}));
const shown = all.filter(({ name }) => SHOWN.test(name));

describe("is as it was last looked at", () => {
  it.each(FAMILIES.filter(({ acts }) => acts.length > 0))("$label", (family) =>
    asLastLookedAt(
      `families/${family.id}.html`,
      shown.map(({ name, html }) => {
        const before = new Set(lines(html));
        const { html: after, lost } = showIn(family, html);
        const changed = lines(after).filter((one) => !before.has(one));
        return `<!-- ${name}: ${JSON.stringify(lost)} -->\n${changed.join("\n")}\n`;
      }),
    ),
  );

  it("read aloud", () =>
    asLastLookedAt(
      "aloud.txt",
      all.map(({ name, html }) => {
        const said = readAloud(html).map(({ as, words }) => [as, words].filter(Boolean).join(": "));
        return `${name}\n${said.map((one) => `  ${one}`).join("\n")}\n`;
      }),
    ));
});
