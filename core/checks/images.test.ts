/** Images in the proof: their weight, their pixels, what is said of them, and whether anything else is. */
import { describe, expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { apply, type DocNode, find } from "../document/index.ts";
import type { Picture } from "../kinds/kind.ts";
import { emailOf, ids, PICTURE, picture, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line, tag } from "../text/index.ts";
import { runChecks } from "./index.ts";

const OTHER = "b".repeat(64);
const id = ids();
const image = (props: object = {}) =>
  createBlock("image", id, { picture: PICTURE, alt: line("A leaf"), ...props });

function said(check: string, blocks: readonly DocNode[], pictures: readonly Picture[]) {
  const around = { ...SURROUNDINGS, pictures: new Map(pictures.map((one) => [one.id, one])) };
  return runChecks(emailOf(blocks), around, new Map()).filter((one) => one.check === check);
}

describe("the weight of images", () => {
  const KB = 1024;
  // Drawn at its own width, it is sent as it is.
  const of = (...bytes: number[]) => {
    const pictures = bytes.map((each, i) =>
      picture(String.fromCharCode(97 + i).repeat(64), { bytes: each, name: `p${i}`, width: 100 }),
    );
    return said(
      "image-weight",
      pictures.map((one) => image({ picture: one.id })),
      pictures,
    ).map(({ message, at }) => [message, at === "email" ? "email" : "image"]);
  };
  it("is told from above 300 KB each, and above 1 MB for all", () => {
    expect(of(300 * KB)).toEqual([]);
    expect(of(300 * KB + 600)).toEqual([["An image weighs 301 KB", "image"]]);
    expect(of(256 * KB, 256 * KB, 256 * KB, 256 * KB)).toEqual([]);
    expect(of(256 * KB, 256 * KB, 256 * KB, 258 * KB)).toEqual([
      ["All images together weigh 1026 KB", "email"],
    ]);
  });
  it("is of each picture once, however often it stands there, and nothing for what nobody has weighed", () => {
    const heavy = picture(PICTURE, { bytes: 400 * KB, width: 100 });
    expect(said("image-weight", [image(), image(), image()], [heavy])).toHaveLength(1);
    expect(said("image-weight", [image()], [picture(PICTURE)])).toEqual([]);
  });
  it("is that of the file that is sent, which is smaller than the picture", () => {
    const large = picture(PICTURE, { bytes: 2_000 * KB, width: 8_000, height: 4_000 });
    expect(said("image-weight", [image()], [large])).toEqual([]);
  });
});

describe("the pixels of an image", () => {
  const of = (width: number) =>
    said("image-size", [image()], [picture(PICTURE, { width, name: "leaf" })]);
  it("are enough at its own width, and too few one below", () => {
    const [told] = of(10);
    const shown = Number(/shown at (\d+)/.exec(told!.detail!)![1]);
    expect(shown).toBeGreaterThan(400);
    expect(told).toMatchObject({ severity: "look", in: ["picture"] });
    expect(told!.detail).toBe(`“leaf” is 10 px wide and shown at ${shown}: it will be blurred.`);
    expect(of(shown)).toEqual([]);
    expect(of(shown - 1)).toHaveLength(1);
  });
});

describe("an alt text", () => {
  const of = (alt: string, props: object = {}) =>
    said("alt-words", [image({ alt: line(alt), ...props })], [picture(PICTURE)]);
  const messages = (alt: string) => of(alt).map(({ message }) => message);
  it("says what there is to see, and is no file's name", () => {
    for (const name of ["IMG_2041", "leaf.JPG", "photo-3", "Screenshot", "scan 12", "a b.tiff"]) {
      expect(messages(name), name).toEqual(["An alt text is the name of a file"]);
    }
    for (const words of ["Scanning the garden", "A photo 3 metres wide", "leaf.jpg on a door"]) {
      expect(messages(words), words).toEqual([]);
    }
  });
  it("is a sentence, up to 150 letters", () => {
    expect(messages("a".repeat(150))).toEqual([]);
    expect(messages("a".repeat(151))).toEqual(["An alt text has 151 letters"]);
  });
  it("does not begin with what is heard anyway; words that only begin like that are words", () => {
    expect(messages("Image of a leaf")).toEqual(["An alt text begins with “Image of”"]);
    expect(messages("photo d’une feuille")).toEqual(["An alt text begins with “photo d’”"]);
    expect(messages("Photo du verger")).toEqual(["An alt text begins with “Photo du”"]);
    for (const words of ["Image design of a label", "Photo described below", "Picture offer"]) {
      expect(messages(words), words).toEqual([]);
    }
    expect(of("Image of a leaf", { decorative: true })).toEqual([]);
  });
  it("is mended by leaving that out, with a capital", () => {
    const without = (...alt: Parameters<typeof line>) => {
      const block = createBlock("image", () => "i", { picture: PICTURE, alt: line(...alt) });
      const [finding] = said("alt-words", [block], [picture(PICTURE)]);
      return finding!.mends!.map(({ label, edits }) => {
        const { node } = find(edits.reduce(apply, emailOf([block])), "i")!;
        return `${label}: ${JSON.stringify(node.props.alt)}`;
      });
    };
    expect(without("Image of a leaf")).toEqual([
      expect.stringMatching(/^Leave it out: .*"text":"A leaf"/),
    ]);
    expect(without("photo d'été")).toEqual([expect.stringContaining('"Été"')]);
    expect(without("photo d’ été")).toEqual([expect.stringContaining('"Été"')]);
    // A tag that follows is never written over.
    expect(without("Photo of ", tag("contact:first", "you"), " here")).toEqual([]);
    expect(without("Photo of", tag("contact:first", "you"))).toEqual([]);
    // Letters of two units stay whole.
    expect(without("Icon of 𐐨x")).toEqual([expect.stringContaining('"𐐀x"')]);
    expect(without("Picture of")).toEqual([]);
  });
});

describe("an email of images", () => {
  const words = (text: string) => createBlock("text", id, { words: doc(text) });
  const of = (...blocks: DocNode[]) =>
    said("image-only", blocks, [picture(PICTURE), picture(OTHER)]).map(({ at }) => at);
  it("says too little below six words beside them; a footer does not count", () => {
    const one = image();
    expect(of(one, words("one two three four five six"))).toEqual([]);
    expect(of(one, words("one two three four five"))).toEqual([one.id]);
    expect(of(one, createBlock("footer", id))).toEqual([one.id]);
    expect(of(words("short"))).toEqual([]);
  });
});
