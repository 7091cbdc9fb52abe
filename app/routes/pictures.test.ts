import { writeFile } from "node:fs/promises";
import { join } from "node:path";
/** Images of the library: taken, told of, put in order, edited and replaced, by one person and by two. */
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { type EmailDocument, find } from "#core/document/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { nameInAddress } from "#core/picture-id.ts";
import { PLAIN } from "#core/pictures/recipe.ts";
import { line } from "#core/text/index.ts";
import { putBack } from "#server/store/bin.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { listFolders } from "#server/store/picture-folders.ts";
import { getPicture, searchPictures } from "#server/store/pictures.ts";
import { getSaved, save } from "#server/store/saved.ts";
import { addMember, type Member } from "#server/store/team.ts";
import { whereUsed } from "#server/store/uses.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import type { Replaced } from "../pictures/replaced.ts";
import { aDesigner, answered, routeArgs } from "../testing/route.ts";
import { loader as first } from "./api.picture-first.ts";
import { loader as look } from "./api.picture-look.ts";
import { loader as known, action as make } from "./api.picture-make.ts";
import { action as sayAtOnce } from "./api.picture-said.ts";
import { action as upload } from "./api.pictures.ts";
import { action as change, loader as page } from "./library.picture.tsx";
import { loader as library, action as order } from "./library.pictures.tsx";

let services: TestServices;
let member: Member;
let marketer: Member;
beforeAll(async () => {
  services = await startTestServices();
  member = await aDesigner(services);
  marketer = await addMember(
    services.database.sql,
    { name: "Bo", email: "bo@larkmoor.example", role: "marketer" },
    services.clock.now(),
  );
});
afterAll(() => services.close());

/** A picture like no other: stripes of two colours. */
async function drawing(seed: number, width = 64): Promise<Blob> {
  const size = { width, height: 48 };
  const stripe = { width: Math.max(1, (seed * 7) % 40), height: 48 };
  const background = `#${((seed * 987_654) % 0xffffff).toString(16).padStart(6, "0")}`;
  const image = sharp({ create: { ...size, channels: 3, background: "#fafafa" } }).composite([
    { input: { create: { ...stripe, channels: 3, background } }, left: (seed * 5) % 20, top: 0 },
  ]);
  return new Blob([new Uint8Array(await image.png().toBuffer())], { type: "image/png" });
}
async function uploaded(file: Blob, name: string, folder?: string): Promise<Picture> {
  const body = new FormData();
  body.set("file", new File([file], name));
  if (folder) body.set("folder", folder);
  const answer = await upload(routeArgs(services, member, { body }));
  return ((await answer.json()) as { picture: Picture }).picture;
}
const asked = (picture: string, form: Record<string, string>, who = member) =>
  change(routeArgs(services, who, { form }, { picture }) as never);
const ordered = (form: Record<string, string>) =>
  order(routeArgs(services, member, { form }) as never);
const made = async (picture: string, json: unknown, who = member) => {
  const body = JSON.stringify(json);
  const answer = await make(routeArgs(services, who, { body }, { picture }) as never);
  return {
    status: answer.status,
    ...((await answer.json()) as { picture: Picture; replaced: Replaced | null; message?: string }),
  };
};

/** An email that shows a picture twice; `hold` holds its band. */
function showing(picture: string, hold?: "fixed"): EmailDocument {
  let n = 0;
  const id = () => `p${++n}`;
  const image = () => createBlock("image", id, { picture, alt: line("Stripes") });
  const band = createBand(id, [createColumn(id, [image(), image()])]);
  return createDocument([hold ? { ...band, props: { ...band.props, hold } } : band]);
}
const campaign = async (name: string, doc: EmailDocument) =>
  (await getCampaign(
    services.database.sql,
    await createCampaign(services.database.sql, name, doc, services.clock.now()),
  ))!;
const shown = async (document: string) => {
  const { doc } = (await loadDocument(services.database.sql, document))!;
  return doc.root.children[0]!.children[0]!.children.map(({ props }) => props.picture);
};

describe("an image that comes", () => {
  it("is told of at once, and keeps that when the same file comes again", async () => {
    const first = await uploaded(await drawing(1), "stripes.png");
    const said = { alt: " Stripes of two colours ", decorative: "" };
    const args = routeArgs(services, member, { form: said }, { picture: first.id });
    expect(await sayAtOnce(args as never)).toEqual({ problem: null });
    const again = await uploaded(await drawing(1), "other.png");
    expect(again).toMatchObject({
      id: first.id,
      alt: "Stripes of two colours",
      name: "stripes.png",
    });
    const gone = routeArgs(services, member, { form: said }, { picture: "gone" });
    expect(answered(await sayAtOnce(gone as never)).status).toBe(404);
  });
  it("is sent at the width of its place", async () => {
    const wide = await uploaded(await drawing(2, 1_200), "wide.png");
    const { pictures } = services;
    const sized = await pictures.sized(nameInAddress(wide.file), 400);
    expect((await sharp(sized!).metadata()).width).toBe(400);
    expect(await pictures.sized(nameInAddress(wide.file), 400)).toBe(sized);
    for (const width of [401, 0, -80, 80_000]) {
      expect(await pictures.sized(nameInAddress(wide.file), width)).toBeNull();
    }
    expect(await pictures.sized("../../key.png", 400)).toBeNull();
  });
});

describe("the library", () => {
  it("has folders and labels, by which images are found", async () => {
    const { sql } = services.database;
    expect(answered(await ordered({ do: "add", name: " " })).status).toBe(400);
    await ordered({ do: "add", name: "Spring" });
    expect(answered(await ordered({ do: "add", name: "spring" })).status).toBe(409);
    const [folder] = await listFolders(sql);
    const here = await uploaded(await drawing(3), "in.png", folder!.id);
    const there = await uploaded(await drawing(4), "out.png", "no-such-folder");
    const both = { "pictures[0]": here.id, "pictures[1]": there.id };
    expect(answered(await ordered({ do: "move", folder: folder!.id })).status).toBe(400);
    await ordered({ do: "label", label: "Catalogue", ...both });
    await ordered({ do: "label", label: "catalogue", ...both });
    const found = async (path: string) => {
      const { pictures } = await library(routeArgs(services, member, { path }) as never);
      return pictures.map(({ name }) => name).sort();
    };
    expect(await found(`/library?folder=${folder!.id}`)).toEqual(["in.png"]);
    expect(await found("/library?label=catalogue")).toEqual(["in.png", "out.png"]);
    expect(await found("/library?search=Catalogue")).toEqual(["in.png", "out.png"]);
    await ordered({ do: "move", folder: folder!.id, ...both });
    expect(await found(`/library?folder=${folder!.id}`)).toEqual(["in.png", "out.png"]);
    await ordered({ do: "rename", folder: folder!.id, name: "Summer" });
    const gone = (await ordered({ do: "remove", folder: folder!.id })) as Response;
    expect(await found("/library?folder=none")).toContain("in.png");
    const removed = new URL(gone.headers.get("location")!, "http://x").searchParams.get("removed")!;
    await services.database.tx((tx) => putBack(tx, removed));
    expect(await found(`/library?folder=${folder!.id}`)).toEqual(["in.png", "out.png"]);
    expect((await listFolders(sql))[0]).toMatchObject({ name: "Summer", count: 2 });
  });
  it("knows what looks alike", async () => {
    const noise = { type: "gaussian" as const, mean: 120, sigma: 90 };
    const plain = { width: 32, height: 24, channels: 3 as const, background: "#000000", noise };
    const scene = await sharp({ create: plain }).resize(640, 480).png().toBuffer();
    const blob = (bytes: Buffer) => new Blob([new Uint8Array(bytes)]);
    const one = await uploaded(blob(scene), "scene.png");
    const smaller = await sharp(scene).resize(400).modulate({ brightness: 1.05 }).jpeg().toBuffer();
    const two = await uploaded(blob(smaller), "scene-small.jpg");
    const { alike } = await page(routeArgs(services, member, {}, { picture: one.id }) as never);
    expect(alike.map(({ id }) => id)).toEqual([two.id]);
  });
  it("keeps what is said of an image, and says at the field what cannot be", async () => {
    const { sql } = services.database;
    const { id } = await uploaded(await drawing(5), "said.png");
    const said = {
      do: "say",
      name: "Snow",
      alt: "Snow on twigs",
      labels: "winter, Winter ,garden",
    };
    await asked(id, { ...said, x: "20", y: "90" });
    expect(await getPicture(sql, id)).toMatchObject({
      ...{ name: "Snow", alt: "Snow on twigs", labels: ["winter", "garden"] },
      focus: { x: 20, y: 90 },
    });
    const wrong = answered<{ result: { error: Record<string, string[]> } }>(
      await asked(id, { ...said, name: "", labels: "x".repeat(50), x: "50", y: "50" }),
    );
    expect(wrong.status).toBe(400);
    expect(Object.keys(wrong.result.error).sort()).toEqual(["labels", "name"]);
    const nowhere = await asked(id, { ...said, folder: "gone", x: "50", y: "50" });
    expect(answered(nowhere).status).toBe(409);
    expect((await searchPictures(sql, { words: "snow" })).total).toBe(1);
  });
});

describe("editing", () => {
  it("makes a copy from the original, and begins again with what was done", async () => {
    const one = await uploaded(await drawing(6, 200), "edit.png");
    const recipe = { ...PLAIN, turn: 90, words: [] };
    const { picture: copy } = await made(one.id, { recipe, as: "copy", seen: null });
    expect([copy.width, copy.height, copy.name]).toEqual([48, 200, "edit.png, edited"]);
    const args = routeArgs(services, member, {}, { picture: copy.id });
    const { original, recipe: done } = (await (await known(args as never)).json()) as {
      original: Picture;
      recipe: typeof PLAIN;
    };
    expect([original.id, done.turn]).toEqual([one.id, 90]);
    // Back to the plain recipe it is the original again.
    expect((await made(copy.id, { recipe: PLAIN, as: "copy", seen: null })).picture.id).toBe(
      one.id,
    );
  });
  it("shows what it will be, and refuses what no recipe says", async () => {
    const { id } = await uploaded(await drawing(7), "look.png");
    const seen = (recipe: unknown, picture = id) => {
      const words = typeof recipe === "string" ? recipe : JSON.stringify(recipe);
      const path = `/x?recipe=${Buffer.from(words).toString("base64url")}`;
      return look(routeArgs(services, member, { path }, { picture }) as never);
    };
    const answer = await seen({ ...PLAIN, width: 30 });
    const image = Buffer.from(await answer.arrayBuffer());
    expect((await sharp(image).metadata()).width).toBe(30);
    expect((await seen({ ...PLAIN, width: 1e9 })).status).toBe(400);
    expect((await seen("{")).status).toBe(400);
    expect((await seen({ ...PLAIN, words: Array(99).fill({}) })).status).toBe(400);
    expect((await seen(PLAIN, "gone")).status).toBe(404);
    expect((await made(id, { recipe: PLAIN, as: "elsewhere", seen: null })).status).toBe(400);
    expect((await made("gone", { recipe: PLAIN, as: "copy", seen: null })).status).toBe(404);
  });
});

describe("replacing everywhere", () => {
  it("changes emails, templates’ blocks and all, and leaves what is held or scheduled", async () => {
    const { sql } = services.database;
    const now = services.clock.now();
    const old = await uploaded(await drawing(8), "old.png");
    const next = await uploaded(await drawing(9), "next.png");
    const free = await campaign("Free", showing(old.id));
    const held = await campaign("Held", showing(old.id, "fixed"));
    const image = createBlock("image", () => "kept", { picture: old.id, alt: line("x") });
    const block = (await save(sql, "A block", [image], now))!;
    const answer = (await asked(old.id, { do: "replace", by: next.id }, marketer)) as {
      replaced: Replaced;
    };
    expect(answer.replaced.names.toSorted()).toEqual(["A block", "Free"]);
    expect(answer.replaced.left).toEqual([{ name: "Held", why: expect.stringContaining("holds") }]);
    expect(await shown(free.documentId)).toEqual([next.id, next.id]);
    expect(await shown(held.documentId)).toEqual([old.id, old.id]);
    expect((await getSaved(sql, block))!.nodes[0]!.props.picture).toBe(next.id);
    // It can be taken back like any edit: each is one step of the person's.
    const { doc, seq } = (await loadDocument(sql, free.documentId))!;
    expect([seq, find(doc, "p1")?.node.props.picture]).toEqual([1, next.id]);
    // Who may change templates goes on with what is left.
    const rest = { do: "replace", by: next.id, seen: next.id };
    await asked(old.id, rest);
    expect(await shown(held.documentId)).toEqual([next.id, next.id]);
    expect(await whereUsed(sql, old.id)).toEqual([]);
  });
  it("tells the second of two people who replace one image", async () => {
    const [old, mine, theirs] = await Promise.all(
      [10, 11, 12].map(async (seed) => uploaded(await drawing(seed), `${seed}.png`)),
    );
    const email = await campaign("Two", showing(old!.id));
    await asked(old!.id, { do: "replace", by: theirs!.id }, marketer);
    const late = answered<{ problem: string }>(
      await asked(old!.id, { do: "replace", by: mine!.id }),
    );
    expect([late.status, late.problem]).toEqual([409, expect.stringContaining("Somebody else")]);
    expect(await shown(email.documentId)).toEqual([theirs!.id, theirs!.id]);
    const inPlace = await made(old!.id, {
      recipe: { ...PLAIN, turn: 180 },
      as: "place",
      seen: null,
    });
    expect([inPlace.status, inPlace.message]).toEqual([409, expect.stringContaining("opened it")]);
    const { by } = await page(routeArgs(services, member, {}, { picture: old!.id }) as never);
    expect(by!.id).toBe(theirs!.id);
  });
  it("puts what was edited into its place", async () => {
    const one = await uploaded(await drawing(13), "place.png");
    const email = await campaign("Place", showing(one.id));
    const recipe = { ...PLAIN, turn: 180 };
    const answer = await made(one.id, { recipe, as: "place", seen: null });
    expect(answer.replaced!.names).toEqual(["Place"]);
    expect(await shown(email.documentId)).toEqual([answer.picture.id, answer.picture.id]);
    expect(answer.picture.id).not.toBe(one.id);
  });
});

it("shows the first frame of an animation, and tells where it says nothing", async () => {
  const frame = (colour: string) =>
    sharp({ create: { width: 8, height: 6, channels: 3, background: colour } })
      .raw()
      .toBuffer();
  const frames = await Promise.all(["#ffffff", "#1f3d2e"].map(frame));
  const moving = await sharp(Buffer.concat(frames), {
    raw: { width: 8, height: 12, channels: 3, pageHeight: 6 },
    animated: true,
  })
    .gif({ delay: [100, 100] })
    .toBuffer();
  const one = await uploaded(new Blob([new Uint8Array(moving)]), "moving.gif");
  expect(one.file).toMatch(/\.gif$/);
  const args = (picture: string) => routeArgs(services, member, {}, { picture }) as never;
  const answer = await first(args(one.id));
  const shown = sharp(await answer.arrayBuffer());
  expect(await shown.metadata()).toMatchObject({ format: "png", width: 8, height: 6 });
  expect((await shown.stats()).channels.every(({ mean }) => Math.round(mean) === 255)).toBe(true);
  expect((await first(args("gone"))).status).toBe(404);
  const { tones } = (await getPicture(services.database.sql, one.id))!;
  expect(tones!.at(-1)).toBe(100);
  await writeFile(join(services.pictures.folder, one.file), "damaged");
  expect((await first(args(one.id))).status).toBe(404);
});

describe("hostile values", () => {
  const NUL = "\u0000";
  it("in addresses find nothing, and break nothing", async () => {
    for (const path of [
      `/library?folder=${encodeURIComponent("no such folder")}`,
      `/library?label=${encodeURIComponent("%_\\")}`,
      `/library?search=${encodeURIComponent("%_\\")}`,
      `/library?folder=${encodeURIComponent("' or true --")}`,
    ]) {
      const { pictures } = await library(routeArgs(services, member, { path }) as never);
      expect(pictures, path).toEqual([]);
    }
    const nowhere = { picture: "../key" };
    await expect(page(routeArgs(services, member, {}, nowhere) as never)).rejects.toMatchObject({
      init: { status: 404 },
    });
    expect(
      (await look(routeArgs(services, member, { path: "/x?recipe=e30" }, nowhere) as never)).status,
    ).toBe(400);
    expect((await known(routeArgs(services, member, {}, nowhere) as never)).status).toBe(404);
  });
  it("in words on an image are refused, or drawn as words", async () => {
    const one = await uploaded(await drawing(20, 300), "hostile.png");
    const words = (text: string) => ({
      ...{ text, font: "sans", size: 20, ink: "#000000", ground: null, across: 50, down: 50 },
    });
    const written = (text: string) =>
      made(one.id, { recipe: { ...PLAIN, words: [words(text)] }, as: "copy", seen: null });
    for (const text of [`a${NUL}b`, "\ud800", "\u001b[31m", " "]) {
      expect((await written(text)).status, JSON.stringify(text)).toBe(400);
    }
    for (const text of ["</svg><image href='file:///etc/passwd'/>", "‮evil", "日本", "&#x0;"]) {
      const { status, picture } = await written(text);
      expect([status, picture.width], text).toEqual([200, 300]);
    }
  });
  it("in names, alt texts and labels are words and nothing else", async () => {
    const name = '<img src=x onerror="alert(1)">.png';
    const one = await uploaded(await drawing(21), name);
    const labels = "<b>, ', {{ x }}";
    await asked(one.id, { do: "say", name, alt: "\u202e{{", labels, x: "50", y: "50" });
    expect(await getPicture(services.database.sql, one.id)).toMatchObject({
      ...{ name, alt: "\u202e{{", labels: ["<b>", "'", "{{ x }}"] },
    });
    for (const [x, y] of [
      ["-1", "50"],
      ["101", "50"],
      ["1e9", "50"],
      ["NaN", "50"],
    ]) {
      const form = { do: "say", name, x: x!, y: y! };
      expect(answered(await asked(one.id, form)).status).toBe(400);
    }
    const nobody = { do: "replace", by: "../../etc/passwd" };
    expect(answered(await asked(one.id, nobody)).status).toBe(400);
    expect(answered(await asked(one.id, { do: "replace", by: "f".repeat(64) })).status).toBe(400);
    expect(answered(await asked(one.id, { do: "replace", by: one.id })).status).toBe(400);
  });
});
