/** Every block in every shape, letter by letter. */
import { describe, it } from "vitest";
import type { EmailDocument } from "../document/index.ts";
import type { LiveList } from "../kinds/kind.ts";
import { mergeText, prepare } from "../merge/index.ts";
import { asLastLookedAt, lines } from "../testing/golden.ts";
import { DIRECT, PICTURE, picture, SURROUNDINGS } from "../testing/rendered.ts";
import { type Sample, samples } from "../testing/samples.ts";
import { compile } from "./index.ts";

const TALL = "b".repeat(64);
const READER = { values: { "contact:first_name": "Ada" }, token: "t" };
const AROUND = {
  ...SURROUNDINGS,
  pictures: new Map([
    [PICTURE, picture(PICTURE)],
    [TALL, picture(TALL, { width: 400, height: 900 })],
  ]),
};

function shown(doc: EmailDocument, live: ReadonlyMap<string, LiveList>) {
  const prepared = prepare(compile(doc, { ...AROUND, live }), DIRECT);
  return { html: mergeText(prepared.html, READER), text: mergeText(prepared.text, READER) };
}

const byType = new Map<string, Sample[]>();
for (const one of samples([PICTURE, TALL])) {
  const type = one.name.replace(/-.*/, "");
  byType.set(type, [...(byType.get(type) ?? []), one]);
}
/** What every email has is told once, with the emptiest. */
const [empty] = byType.get("spacer")!;
const plain = new Set(lines(shown(empty!.doc, empty!.live).html));

describe("is as it was last looked at", () => {
  it.each([...byType])("%s", (type, shapes) =>
    asLastLookedAt(
      `blocks/${type}.html`,
      shapes.map((shape) => {
        const { html, text } = shown(shape.doc, shape.live);
        const own = lines(html).filter((one) => shape === empty || !plain.has(one));
        const spoken = `<!-- ${shape.name}, plain text\n${text.trim()}\n-->\n`;
        return `<!-- ${shape.name} -->\n${own.join("\n")}\n${spoken}`;
      }),
    ),
  );
});
