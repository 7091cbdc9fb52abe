/** Every way out of a campaign: what is in the files, read back as whoever gets them would. */
import { strFromU8, unzipSync } from "fflate";
import { type AddressObject, simpleParser } from "mailparser";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import { type EmailFile, readFile } from "#core/files/index.ts";
import { picturesIn } from "#core/mentions/index.ts";
import { line } from "#core/text/index.ts";
import { FORMATS } from "#server/export/formats.ts";
import { createCampaign, getCampaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { savePicture } from "#server/store/pictures.ts";
import { smallCampaign, smallNewsletter } from "#server/testing/newsletter.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { routeArgs } from "../testing/route.ts";
import { loader } from "./api.export-email.ts";
import { loader as schema } from "./api.schema.ts";

let services: TestServices;
let made: Awaited<ReturnType<typeof smallCampaign>>;
beforeAll(async () => {
  services = await startTestServices();
  made = await smallCampaign(services, ["one@example.org", "two@example.org"]);
  const { sql, now } = { sql: services.database.sql, now: services.clock.now() };
  const rose = await sharp({ create: { width: 9, height: 6, channels: 3, background: "#7a1f3d" } })
    .png()
    .toBuffer();
  const picture = await services.pictures.add(rose, "Rose.png");
  await savePicture(sql, picture, now);
  const doc = smallNewsletter();
  const id = () => "rose";
  const image = createBlock("image", id, { picture: picture.id, alt: line("A rose") });
  const band = createBand(() => "roses", [createColumn(() => "bed", [image])]);
  const root = { ...doc.root, children: [...doc.root.children, band] };
  const name = "Rosés & thorns";
  const campaign = await createCampaign(sql, name, { ...doc, root }, now, made.campaign.audience);
  made = { ...made, campaign: (await getCampaign(sql, campaign))! };
});
afterAll(() => services.close());

async function exported(format: string, query = "") {
  const path = `/campaigns/x/export/${format}?${query}`;
  const params = { campaign: made.campaign.id, format };
  const answer = await loader(routeArgs(services, made.member, { path }, params));
  return { answer, bytes: new Uint8Array(await answer.arrayBuffer()) };
}
const words = async (format: string, query = "") =>
  new TextDecoder().decode((await exported(format, query)).bytes);

it("gives the email as a reader gets it, or with its tags as Liquid writes them", async () => {
  const tag = 'Dear {{ contact["first_name"] | default: "friend" | escape }}, welcome.';
  expect(await words("html", "tags=yes")).toContain(tag);
  const filled = await words("html", `contact=${made.contacts[0]}`);
  expect(filled).toContain("Dear Reader 0, welcome.");
  expect(filled).not.toContain("{{");
  expect(await words("text", "tags=yes")).toContain('{{ contact["first_name"]');
});

it("gives a message that a mail program reads, with a name that any system takes", async () => {
  const { answer, bytes } = await exported("eml", `contact=${made.contacts[0]}`);
  expect(answer.headers.get("Content-Disposition")).toMatch(/filename="roses-thorns\.eml"/);
  expect(answer.headers.get("Content-Security-Policy")).toContain("sandbox");
  const read = await simpleParser(Buffer.from(bytes));
  expect((read.to as AddressObject).text).toBe("one@example.org");
  expect(read.html).toContain("Dear Reader 0, welcome.");
  expect(read.text).toContain("Dear Reader 0, welcome.");
});

it("puts every image into the file, or beside it", async () => {
  const base = services.config.publicAddress;
  const { doc } = (await loadDocument(services.database.sql, made.campaign.documentId))!;
  const shown = picturesIn(doc.root).size;
  expect(shown).toBeGreaterThan(0);
  expect(await words("html")).toContain(`${base}/pictures/`);
  const one = await words("embedded");
  expect(one).not.toContain(`${base}/pictures/`);
  expect(new Set(one.match(/data:image\/[a-z]+;base64,[^"]+/g)).size).toBe(shown);
  const files = unzipSync((await exported("zip")).bytes);
  const html = strFromU8(files["email.html"]!);
  const named = [...html.matchAll(/images\/\d+\.[a-z]+/g)].map(([name]) => name);
  expect(new Set(named).size).toBe(shown);
  for (const name of named) expect(files[name]!.length).toBeGreaterThan(0);
});

it("gives Liquid templates with a contract that names every variable in them", async () => {
  const files = unzipSync((await exported("liquid")).bytes);
  const contract = JSON.parse(strFromU8(files["contract.json"]!));
  const names = contract.variables.map(({ name }: { name: string }) => name);
  const html = strFromU8(files[contract.templates.html]!);
  const used = [...html.matchAll(/\{\{ ([a-z_0-9]+(?:\["[^"]+"\])?)/g)].map(([, name]) => name!);
  expect(used.length).toBeGreaterThan(0);
  expect(used.filter((name) => !names.includes(name))).toEqual([]);
});

it("gives a file that another Septima reads back as the same email, with its images", async () => {
  const read = readFile(await words("json"));
  const { doc } = (await loadDocument(services.database.sql, made.campaign.documentId))!;
  expect(read).toMatchObject({ kind: "email", name: made.campaign.name, doc });
  expect(new Set((read as EmailFile).pictures.map(({ id }) => id))).toEqual(picturesIn(doc.root));
  const { $defs } = (await schema().json()) as { $defs: Record<string, unknown> };
  expect(Object.keys($defs)).toContain("node.heading");
});

it("knows no format that there is not, and leaves the email as it is", async () => {
  expect((await exported("exe")).answer.status).toBe(404);
  expect((await exported("__proto__")).answer.status).toBe(404);
  const before = await getCampaign(services.database.sql, made.campaign.id);
  for (const format of Object.keys(FORMATS))
    expect((await exported(format)).answer.status).toBe(200);
  expect(await getCampaign(services.database.sql, made.campaign.id)).toEqual(before);
});
