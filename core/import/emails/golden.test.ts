/** Emails made elsewhere: what each becomes, with its own look and in a theme. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, it } from "vitest";
import { createDocument } from "../../blocks/index.ts";
import { taking } from "../../testing/foreign.ts";
import { asLastLookedAt, lines } from "../../testing/golden.ts";
import { picture, rendered } from "../../testing/rendered.ts";
import { readForeign, takeApart } from "./index.ts";

const FOLDER = "fixtures/emails";
const names = readdirSync(FOLDER)
  .filter((name) => name.endsWith(".html"))
  .map((name) => name.slice(0, -5));
const plain = new Set(lines(rendered(createDocument([])).html));

/** How it is shown, beyond what every email has, and what is told of it. */
function becomes(name: string, keepLook: boolean): string {
  const foreign = readForeign(readFileSync(join(FOLDER, `${name}.html`), "utf8"));
  const { doc, ...told } = takeApart(foreign, { ...taking(), keepLook });
  const taken = taking();
  const pictures = new Map(
    foreign.images.map((src) => taken.pictureOf(src)!).map((id) => [id, picture(id)]),
  );
  const { html, text } = rendered(doc, { pictures });
  const own = lines(html).filter((one) => !plain.has(one));
  const look = keepLook ? "its own look" : "the theme";
  const notes = JSON.stringify({ ...told, tags: foreign.tags, title: foreign.title }, null, 1);
  return keepLook
    ? `<!-- ${look} -->\n${own.join("\n")}\n<!-- plain text\n${text.trim()}\n-->\n<!--\n${notes}\n-->`
    : `<!-- ${look} -->\n${own.join("\n")}`;
}

describe("becomes what it was when last looked at", () => {
  it.each(names)("%s", (name) =>
    asLastLookedAt(`taken/${name}.html`, [becomes(name, true), becomes(name, false)]),
  );
});
