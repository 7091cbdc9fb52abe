/** Fonts of the house: read, measured, kept; and whatever else calls itself one. */
import { readFile } from "node:fs/promises";
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { fallbackFor } from "#core/theme/fallbacks.ts";
import { ownFont, webFontSchema } from "#core/theme/theme.ts";
import type { KeptFont } from "#server/store/fonts.ts";
import type { Member } from "#server/store/team.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, routeArgs } from "../testing/route.ts";
import { action, loader } from "./api.fonts.ts";

let services: TestServices;
let member: Member;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
});
afterAll(() => services.close());

const fontFile = (name: string) =>
  readFile(new URL(import.meta.resolve(`@fontsource/${name}.woff2`)));
const SERIF = "newsreader/files/newsreader-latin-400-normal";
const SANS = "hanken-grotesk/files/hanken-grotesk-latin-400-normal";

async function brought(bytes: Uint8Array, name = "font.woff2") {
  const body = new FormData();
  body.set("file", new File([new Uint8Array(bytes)], name));
  const answer = await action(routeArgs(services, member, { body }) as never);
  return {
    status: answer.status,
    ...((await answer.json()) as { font: KeptFont; message: string }),
  };
}
const all = async () =>
  ((await (await loader(routeArgs(services, member, {}) as never)).json()) as { fonts: KeptFont[] })
    .fonts;

it("is measured, and kept once under its content's name", async () => {
  const serif = await brought(await fontFile(SERIF));
  expect(serif).toMatchObject({
    status: 200,
    font: { family: "Newsreader", measure: { shape: "serif" } },
  });
  expect(serif.font.measure.xHeight).toBeCloseTo(0.43, 1);
  expect(fallbackFor(serif.font.measure).font).toBe("bookSerif");
  const sans = await brought(await fontFile(SANS));
  expect(sans.font).toMatchObject({ family: "Hanken Grotesk", measure: { shape: "sans" } });
  expect(["plainSans", "warmSans"]).toContain(fallbackFor(sans.font.measure).font);
  await brought(await fontFile(SANS), "again.woff2");
  expect((await all()).map(({ family }) => family)).toEqual(["Hanken Grotesk", "Newsreader"]);
  const address = ownFont(sans.font.id);
  expect(webFontSchema.safeParse({ family: "Hanken Grotesk", address }).success).toBe(true);
  const path = services.fonts.pathOf(`${sans.font.id}.woff2`);
  expect((await readFile(path!)).equals(await fontFile(SANS))).toBe(true);
});

it("refuses what is no font, is broken, cut short or too large, and keeps nothing of it", async () => {
  const before = await all();
  const whole = await fontFile(SERIF);
  const flipped = Buffer.from(whole);
  for (let at = 60; at < flipped.length; at += 97) flipped[at] = flipped[at]! ^ 0xff;
  // The length of its first table (behind a header of 48 bytes and a byte of flags), in seven bits each (UIntBase128).
  const lying = Buffer.concat([
    whole.subarray(0, 49),
    Buffer.from([0x87, 0xff, 0xff, 0xff, 0x7f]),
    whole.subarray(50),
  ]);
  const bad: [string, Uint8Array][] = [
    ["words", Buffer.from("wOF2 is how they begin")],
    ["another kind of font", Buffer.from("OTTO\0\0\0\0")],
    ["a page", Buffer.from("<script>alert(1)</script>")],
    ["cut short", whole.subarray(0, whole.length / 2)],
    ["its head alone", whole.subarray(0, 48)],
    ["changed all over", flipped],
    ["a table of two gigabytes", lying],
  ];
  for (const [what, bytes] of bad) {
    const { status, message } = await brought(bytes);
    expect([what, status, message]).toEqual([
      what,
      400,
      "This is no font that can be read: a WOFF2 file is.",
    ]);
  }
  const large = await brought(Buffer.alloc(LIMITS.fontBytes + 1, "wOF2"));
  expect(large.message).toContain("at most 390 KB");
  expect((await brought(new Uint8Array(0))).message).toBe("Choose a font file.");
  expect(await all()).toEqual(before);
});

it("takes no address of a font that leads elsewhere within the application", () => {
  const takes = (address: string) => webFontSchema.safeParse({ family: "X", address }).success;
  expect(takes(ownFont("a".repeat(64)))).toBe(true);
  for (const address of [
    ...["/fonts/../key", "/fonts/x.woff2", "/pictures/a.woff2", "//elsewhere.example/a.woff2"],
    ...[`${ownFont("a".repeat(64))}?x`, "http://larkmoor.example/a.woff2", "javascript:1.woff2"],
    ...["https://larkmoor.example/a.woff2');}", "https://larkmoor.example/a b.woff2"],
  ]) {
    expect([address, takes(address)]).toEqual([address, false]);
  }
});
