/** The main pages with the demo's data against ten years of a busy team; and searching as people get more. */
import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { brotliCompressSync } from "node:zlib";
import { worldOf } from "#server/audience/world.ts";
import { migrate, openInWorker } from "#server/db/open.ts";
import { findContacts, gatherWords } from "#server/store/contacts.ts";
import { idsOf, viewSchema } from "#server/store/views.ts";
import { type Running, startApplication } from "../e2e/server.ts";
import { least, threadEntry } from "./people-database.ts";
import type { Figure } from "./run.ts";
import { growPeople, growRest, SCALE } from "./scale-data.ts";

const WORKER = threadEntry("db-worker.js", "server/db/worker.ts");
/** How often each page is asked for. */
const ASKED = 5;
/** What is searched: rare, as people search. */
const WORDS = ["wrenfield", "n2407 ada", "calloway saltm", "ada.ashdown@example.net"];

/** Makes a folder's database large; gives how searching grows from a tenth of the people to all. */
export async function grow(folder: string): Promise<number> {
  const database = await openInWorker(join(folder, "database"), WORKER);
  await migrate(database);
  const { sql } = database;
  const clock = { now: () => new Date() };
  const search = async () => {
    while ((await gatherWords(sql, 5_000)) > 0);
    await database.exec("vacuum analyze contacts");
    const world = await worldOf(sql, clock);
    return least(7, async () => {
      for (const words of WORDS) {
        await findContacts(sql, words);
        await idsOf(sql, viewSchema.parse({ search: words }), world);
      }
    });
  };
  await growPeople(database, SCALE.contacts / 10);
  const few = await search();
  await growPeople(database, SCALE.contacts);
  const many = await search();
  await growRest(database);
  await database.exec("vacuum analyze");
  await database.close();
  return many / few;
}

interface Page {
  readonly name: string;
  readonly path: string;
}

/** The main pages, by what the demo is known to hold. */
async function mainPages(app: Running): Promise<Page[]> {
  const text = async (path: string) => (await askPage(app, path)).text;
  const first = async (path: string, pattern: RegExp) => {
    const found = pattern.exec(await text(path))?.[0];
    if (!found) throw new Error(`Nothing like ${pattern} on ${path}`);
    return found;
  };
  const list = await text("/campaigns?search=larkmoor");
  const draft = /\/campaigns\/[A-Za-z0-9]{12}(?=")/.exec(list)![0];
  const seeds = await first("/campaigns?search=seed list", /\/campaigns\/[A-Za-z0-9]{12}\/results/);
  const waiting = await first("/campaigns?search=notebook", /\/campaigns\/[A-Za-z0-9]{12}(?=")/);
  const segment = await first(
    "/people/segments?search=bought",
    /\/people\/segments\/[A-Za-z0-9]{12}/,
  );
  return [
    "/",
    "/campaigns",
    "/campaigns/new",
    draft,
    `${draft}/readers`,
    `${draft}/proof`,
    `${waiting}/schedule`,
    seeds,
    "/templates",
    "/people",
    "/people/contacts/1",
    "/people/segments",
    segment,
    "/people/lists",
    "/people/fields",
    "/people/imports",
    "/people/preferences",
    "/people/held",
    "/library",
    "/library/derived",
    "/library/rolls",
    "/results",
    "/outbox",
    "/settings",
  ].map((path) => ({ path, name: path.replace(/[A-Za-z0-9]{12}/, "ID") }));
}

/** Asks for a page: when it begins to come (the server has all that does not come later), when it is whole, and how large it is, as it is and as it is sent. */
export async function askPage({ base, cookie }: Running, path: string) {
  const headers = {
    cookie: `septima_session=${cookie}`,
    accept: "text/html",
    "user-agent": "Mozilla/5.0 (X11; Linux x86_64)",
  };
  const began = performance.now();
  const answer = await fetch(`${base}${path}`, { headers });
  if (answer.status !== 200) throw new Error(`${path}: ${answer.status}`);
  const reader = answer.body!.getReader();
  const chunks: Uint8Array[] = [];
  let first = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    first ||= performance.now() - began;
    chunks.push(value);
  }
  const body = Buffer.concat(chunks);
  return {
    first,
    whole: performance.now() - began,
    bytes: body.length,
    sent: brotliCompressSync(body).length,
    text: body.toString(),
  };
}

export const middle = (numbers: readonly number[]) =>
  numbers.toSorted((a, b) => a - b)[Math.floor(numbers.length / 2)]!;

export async function scaleGroup(figure: Figure): Promise<void> {
  const small = mkdtempSync(join(tmpdir(), "septima-small-"));
  const large = mkdtempSync(join(tmpdir(), "septima-large-"));
  const apps: Running[] = [];
  try {
    await (await startApplication(small)).stop();
    cpSync(small, large, { recursive: true });
    figure("search_people_growth_10x", await grow(large));
    apps.push(await startApplication(small), await startApplication(large));
    const [demo, scaled] = apps as [Running, Running];
    const worst = {
      time: { ratio: 0, name: "" },
      bytes: { ratio: 0, name: "" },
      sent: { ratio: 0, name: "" },
      whole: { ratio: 0, name: "" },
    };
    for (const { path, name } of await mainPages(demo)) {
      const of = {
        demo: [] as Awaited<ReturnType<typeof askPage>>[],
        scaled: [] as Awaited<ReturnType<typeof askPage>>[],
      };
      for (let i = 0; i < ASKED; i++) {
        of.demo.push(await askPage(demo, path));
        of.scaled.push(await askPage(scaled, path));
      }
      const ratio = (key: "first" | "whole" | "bytes" | "sent") =>
        middle(of.scaled.map((one) => one[key])) / middle(of.demo.map((one) => one[key]));
      const [time, whole, bytes] = [ratio("first"), ratio("whole"), ratio("bytes")];
      const sent = ratio("sent");
      console.log(
        `page ${name}: ${time.toFixed(2)} (${middle(of.scaled.map(({ first }) => first)).toFixed(0)} ms), whole ${whole.toFixed(2)}, bytes ${bytes.toFixed(2)}, sent ${sent.toFixed(2)}`,
      );
      if (time > worst.time.ratio) worst.time = { ratio: time, name };
      if (whole > worst.whole.ratio) worst.whole = { ratio: whole, name };
      if (sent > worst.sent.ratio) worst.sent = { ratio: sent, name };
      if (bytes > worst.bytes.ratio) worst.bytes = { ratio: bytes, name };
    }
    console.log(
      `slowest: ${worst.time.name}; whole: ${worst.whole.name}; largest: ${worst.bytes.name}`,
    );
    figure("page_scale_worst", worst.time.ratio);
    figure("page_whole_worst", worst.whole.ratio);
    figure("page_bytes_worst", worst.bytes.ratio);
    figure("page_sent_worst", worst.sent.ratio);
  } finally {
    for (const app of apps) await app.stop();
    for (const folder of [small, large]) rmSync(folder, { recursive: true, force: true });
  }
}
