/** Templates and saved blocks as files: what one Septima gives out, another takes in. */
import { readFile as readBytes } from "node:fs/promises";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { linkedTo } from "#core/blocks/linked.ts";
import type { DocNode } from "#core/document/index.ts";
import { readFile, type SeptimaFile } from "#core/files/index.ts";
import { emailOf, ids } from "#core/testing/rendered.ts";
import { doc, paragraph } from "#core/text/index.ts";
import { ownFont, STANDARD_THEME } from "#core/theme/theme.ts";
import { bring } from "#server/arriving/arrive.ts";
import { takeFont, takeLinked } from "#server/arriving/carried.ts";
import { getArrival } from "#server/store/arrivals.ts";
import { hideFile } from "#server/store/bin.ts";
import { addFile, countFiles, getFile } from "#server/store/files.ts";
import { addFont, listFonts } from "#server/store/fonts.ts";
import { getPictures, savePicture } from "#server/store/pictures.ts";
import { getSaved, listSaved, save } from "#server/store/saved.ts";
import type { Member } from "#server/store/team.ts";
import { createTemplate } from "#server/store/templates.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { aDesigner, routeArgs } from "../testing/route.ts";
import { action as takeSaved } from "./api.saved-brought.ts";
import { loader as savedFile } from "./api.saved-file.ts";
import { loader as templateFile } from "./api.template-file.ts";

interface House {
  readonly services: TestServices;
  readonly member: Member;
}
let here: House;
let there: House;
const house = async (): Promise<House> => {
  const services = await startTestServices();
  return { services, member: await aDesigner(services) };
};
beforeAll(async () => {
  [here, there] = [await house(), await house()];
});
afterAll(async () => {
  await here.services.close();
  await there.services.close();
});

const at = ({ services, member }: House, params: Record<string, string>, more = {}) =>
  routeArgs(services, member, more, params) as never;
async function brought(to: House, text: string, name = "file.json") {
  const body = new FormData();
  body.set("file", new File([text], name));
  const answer = await takeSaved(at(to, {}, { body }));
  return { status: answer.status, ...((await answer.json()) as { id: string; message: string }) };
}
async function aPicture({ services }: House): Promise<string> {
  const drawn = sharp({ create: { width: 40, height: 30, channels: 3, background: "#b5462f" } });
  const picture = await services.pictures.add(await drawn.png().toBuffer(), "Brick");
  await savePicture(services.database.sql, picture, services.clock.now());
  return picture.id;
}
const fontFrom = (name: string) =>
  readBytes(new URL(import.meta.resolve(`@fontsource/${name}.woff2`)));
const words = (text: string): DocNode =>
  createBlock("text", ids("w"), { words: doc(paragraph(text)) });
const said = (nodes: readonly DocNode[]) => nodes.map(({ type, props }) => ({ type, props }));

it("saved blocks go to another house with their images, and are the same there", async () => {
  const picture = await aPicture(here);
  const image = createBlock("image", ids("i"), { picture });
  const { services } = here;
  const nodes = [words("Seeds are ready"), image];
  const id = (await save(services.database.sql, "Seeds", nodes, services.clock.now()))!;
  const answer = await savedFile(at(here, { saved: id }));
  expect(answer.headers.get("content-disposition")).toBe('attachment; filename="seeds.saved.json"');
  const text = await answer.text();
  expect(readFile(text)).toMatchObject({ kind: "saved", of: "block", name: "Seeds" });
  const taken = await brought(there, text);
  const got = (await getSaved(there.services.database.sql, taken.id))!;
  expect(got).toMatchObject({ name: "Seeds", kind: "block", ships: false });
  expect(said(got.nodes)).toEqual(said(nodes));
  expect(await getPictures(there.services.database.sql, [picture])).toMatchObject([
    { name: "Brick" },
  ]);
  // What ships can be taken along as well, and comes as one of the house's own.
  const [ready] = (await listSaved(services.database.sql, { limit: 60 })).filter(
    ({ ships }) => ships,
  );
  const ships = await savedFile(at(here, { saved: ready!.id }));
  expect((await brought(there, await ships.text())).status).toBe(200);
});

it("a template goes to another house, whose own blocks it is not linked to", async () => {
  const { services } = here;
  const linked = linkedTo("only-here", words("In every letter"));
  const id = await createTemplate(
    services.database.sql,
    { name: "Letter", about: "Plain", category: "letters", doc: emailOf([linked, words("Own")]) },
    services.clock.now(),
  );
  const text = await (await templateFile(at(here, { template: id }))).text();
  expect(readFile(text)).toMatchObject({ kind: "template", about: "Plain", category: "letters" });
  const file = { name: "letter.json", bytes: new TextEncoder().encode(text) };
  const arrival = await bring(there.services, file, there.member.id);
  const { document, name, category } = (await getArrival(
    there.services.database.sql,
    arrival,
    there.member.id,
  ))!;
  expect([name, category]).toEqual(["Letter", "letters"]);
  expect(document).toContain("In every letter");
  expect(document).not.toContain("only-here");
});

it("leads to no file and asks for no font that is not in the house that takes it", async () => {
  const { services } = here;
  const file = `${"d".repeat(64)}.pdf`;
  const to = { kind: "file", file, name: "The plan.pdf" } as const;
  const button = createBlock("button", ids("b"), { to });
  const inText = createBlock("text", ids("l"), {
    words: {
      type: "doc",
      content: [
        {
          type: "paragraph",
          content: [{ type: "text", text: "plan", marks: [{ type: "link", attrs: { to } }] }],
        },
      ],
    },
  });
  const theme = {
    ...STANDARD_THEME,
    webFonts: {
      heading: { family: "Ours", address: ownFont("e".repeat(64)) },
      body: { family: "Web", address: "https://fonts.example/a.woff2" },
    },
  };
  const id = await createTemplate(
    services.database.sql,
    { name: "Far", about: "", category: "letters", doc: emailOf([button, inText], { theme }) },
    services.clock.now(),
  );
  const text = await (await templateFile(at(here, { template: id }))).text();
  const taken = async (to: House) => {
    const bytes = new TextEncoder().encode(text);
    const arrival = await bring(to.services, { name: "far.json", bytes }, to.member.id);
    const { sql } = to.services.database;
    return (await getArrival(sql, arrival, to.member.id))!.document!;
  };
  const foreign = await taken(there);
  expect(foreign).not.toContain(file);
  expect(foreign.match(/"file":"","kind":"file","name":"The plan.pdf"/g)).toHaveLength(2);
  expect(foreign).toContain('"webFonts":{"body":{"address":"https://fonts.example/a.woff2"');
  expect(foreign).toContain('"heading":null}');
  // Where they are, it has them.
  const { sql } = there.services.database;
  const now = there.services.clock.now();
  await addFile(sql, { file, name: "The plan.pdf", bytes: 1 }, now);
  const measure = { width: 0.5, xHeight: 0.5, shape: "sans" } as const;
  await addFont(sql, { id: "e".repeat(64), family: "Ours", measure }, now);
  const own = await taken(there);
  expect(own).toContain(file);
  expect(own).toContain(ownFont("e".repeat(64)));
});

it("takes its fonts and the files it links to along, each as it is brought by hand", async () => {
  const { sql } = here.services.database;
  const font = await takeFont(
    here.services,
    await fontFrom("hanken-grotesk/files/hanken-grotesk-latin-400-normal"),
  );
  const plan = await takeLinked(here.services, "The plan.pdf", Buffer.from("%PDF-1.7 plan"));
  const to = { kind: "file", file: plan.file, name: plan.name };
  const theme = {
    ...STANDARD_THEME,
    webFonts: { heading: { family: font.family, address: ownFont(font.id) }, body: null },
  };
  const doc = emailOf([createBlock("button", ids("b"), { to })], { theme });
  const about = { name: "Near", about: "", category: "letters" as const, doc };
  const template = await createTemplate(sql, about, here.services.clock.now());
  const text = await (await templateFile(at(here, { template }))).text();
  const bytes = new TextEncoder().encode(text);
  const far = there.services.database.sql;
  const id = await bring(there.services, { name: "near.json", bytes }, there.member.id);
  const { document } = (await getArrival(far, id, there.member.id))!;
  expect(document).toContain(plan.file);
  expect(document).toContain(ownFont(font.id));
  expect(await getFile(far, plan.file)).toMatchObject({ name: "The plan.pdf", bytes: 13 });
  expect(await readBytes(there.services.files.pathOf(plan.file)!, "utf8")).toBe("%PDF-1.7 plan");
  expect(await listFonts(far)).toContainEqual(font);
  expect(there.services.fonts.pathOf(`${font.id}.woff2`)).not.toBeNull();

  // One that was deleted there is offered again, now that an email leads to it.
  const now = there.services.clock.now();
  await there.services.database.tx((tx) => hideFile(tx, plan.file, "The plan", now));
  expect(await getFile(far, plan.file)).toBeNull();
  await bring(there.services, { name: "again.json", bytes }, there.member.id);
  expect(await getFile(far, plan.file)).toMatchObject({ name: "The plan.pdf" });

  // What nothing in it leads to is not taken.
  const beside = { file: `${"b".repeat(64)}.txt`, name: "More.txt", base64: "YQ==" };
  const stuffed = JSON.parse(text) as { files: object[] };
  stuffed.files.push(beside);
  const before = await countFiles(far, "");
  const more = new TextEncoder().encode(JSON.stringify(stuffed));
  await bring(there.services, { name: "more.json", bytes: more }, there.member.id);
  expect(await countFiles(far, "")).toBe(before);

  // What it says of their content is not believed.
  const [, other] = ["a", "b"].map((one) => `${one.repeat(64)}.pdf`) as [string, string];
  const lie = JSON.parse(text.replaceAll(plan.file, other)) as { fonts: { base64: string }[] };
  lie.fonts[0]!.base64 = Buffer.from("wOF2 and nothing").toString("base64");
  const lied = new TextEncoder().encode(JSON.stringify(lie).replaceAll(font.id, "c".repeat(64)));
  const again = await bring(there.services, { name: "lie.json", bytes: lied }, there.member.id);
  const taken = (await getArrival(far, again, there.member.id))!.document!;
  expect(taken).not.toContain(other);
  expect(taken).not.toContain("c".repeat(64));
  expect(await getFile(far, other)).toBeNull();
});

it("what carries no saved blocks, is damaged or gone is refused with a word", async () => {
  const other = await (await templateFile(at(here, { template: "gone" }))).text();
  expect(other).toBe("This template is gone.");
  expect((await savedFile(at(here, { saved: "gone" }))).status).toBe(404);
  const before = await listSaved(there.services.database.sql, { limit: 60 });
  const file = (more: object) =>
    JSON.stringify({
      ...{ septima: "saved", version: 1, name: "x", of: "band", pictures: [] },
      document: emailOf([words("x")]),
      ...more,
    });
  for (const [text, why] of [
    ["{", "not a file of Septima"],
    [file({ version: 3 }), "newer Septima"],
    [file({ of: "email" }), "damaged: of"],
    [file({ pictures: [{ id: "../key", name: "", type: "image/png", base64: "" }] }), "damaged"],
    [file({ of: undefined, septima: "email" }), "no saved blocks"],
  ] as const) {
    const { status, message } = await brought(there, text);
    expect([status, message]).toEqual([400, expect.stringContaining(why)]);
  }
  expect((await brought(there, "")).message).toBe("Choose a file.");
  expect((await brought(there, "# Words", "words.md")).message).toContain("no saved blocks");
  expect(await listSaved(there.services.database.sql, { limit: 60 })).toEqual(before);
  // An email is looked at before it is started from: saved blocks are none.
  const bytes = new TextEncoder().encode(file({}));
  await expect(bring(there.services, { name: "x.json", bytes }, there.member.id)).rejects.toThrow(
    "the library takes it",
  );
  expect((readFile(file({})) as SeptimaFile).kind).toBe("saved");
});
