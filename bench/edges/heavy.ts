/**
 * Whether pages for readers come while much is done: `page_during_heavy_vs_idle` (99th percentile of unsubscribe
 * pages, ten a second, while an import of 120,000 people is undone, a launch to 100,000 starts and a file of 60 MB
 * is read; over the same without them; at most 8), and `heavy_slowdown` (how long the three take together over the
 * same with the pauses off; at most 1.5).
 */
import { createHmac } from "node:crypto";
import { setTimeout as sleep } from "node:timers/promises";
import { Worker } from "node:worker_threads";
import { createSigner } from "#server/tracking/signer.ts";
import { type Running, startApplication } from "../../e2e/server.ts";
import type { Figure } from "../run.ts";

const UNDONE = 120_000;
const READERS = 100_000;
const FILE_MB = 60;
const PAGES = 500;
const EVERY_MS = 100;
const KEY = "a key for benchmarks that is long enough to sign with";

/** A person's row: address, name, town. */
const row = (name: string, i: number) =>
  `${name}${i}@example.org,Person ${i},${["Hill", "Marsh", "Ford"][i % 3]} ${createHmac("md5", "x").update(`${i}`).digest("hex")}\n`;
const csv = (name: string, people: number) =>
  `Email,First name,Notes\n${Array.from({ length: people }, (_, i) => row(name, i)).join("")}`;

class Client {
  constructor(private readonly app: Running) {}
  private headers = (more: Record<string, string> = {}) => ({
    cookie: `septima_session=${this.app.cookie}`,
    "sec-fetch-site": "same-origin",
    ...more,
  });
  async get(path: string): Promise<string> {
    return (await fetch(`${this.app.base}${path}`, { headers: this.headers() })).text();
  }
  async post(path: string, form: Record<string, string>): Promise<Response> {
    const answer = await fetch(`${this.app.base}${path}`, {
      method: "POST",
      headers: this.headers(),
      body: new URLSearchParams(form),
      redirect: "manual",
    });
    if (answer.status >= 400)
      throw new Error(`${path}: ${answer.status} ${(await answer.text()).slice(0, 400)}`);
    return answer;
  }
  async upload(body: string | Uint8Array<ArrayBuffer>): Promise<string> {
    const answer = await fetch(`${this.app.base}/people/imports/upload?name=people.csv`, {
      method: "POST",
      headers: this.headers(),
      body,
    });
    return ((await answer.json()) as { id: string }).id;
  }
  async until(path: string, words: string): Promise<void> {
    for (;;) {
      const began = performance.now();
      const text = await this.get(path);
      if (text.includes(words)) return;
      if (text.includes("not imported")) throw new Error(`${path} failed`);
      // As patient as a page that looks on.
      await sleep(Math.max(600, (performance.now() - began) * 8));
    }
  }
}

const OPTIONS = (list: string | null) =>
  JSON.stringify({
    shape: { format: "csv", encoding: "utf-8", delimiter: ",", header: true },
    columns: [{ to: "email" }, { to: "field", field: "first_name" }, { to: "skip" }],
    dates: null,
    decimal: ".",
    empty: "keep",
    known: "change",
    refused: "without",
    list,
  });

/** What is done takes minutes: how far it is. */
const said = performance.now();
const tell = (what: string) =>
  console.log(`  ${((performance.now() - said) / 1_000).toFixed(0)} s: ${what}`);

async function importPeople(client: Client, name: string, people: number, list: string | null) {
  const path = `/people/imports/${await client.upload(csv(name, people))}`;
  await client.post(path, { do: "check", options: OPTIONS(list) });
  await client.until(path, "to be looked at");
  tell(`${name} read`);
  await client.post(path, { do: "apply" });
  await client.until(path, ">imported<");
  tell(`${name} taken in`);
  return path;
}

/** A percentile, 0–1. */
const at = (times: readonly number[], share: number) =>
  times.toSorted((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * share))]!;

/** Asks at a pace, on a thread of its own, so that nothing else is measured than the answers. */
const ASKING = `
  const { parentPort, workerData } = require("node:worker_threads");
  const { base, tokens, every, least } = workerData;
  let going = true;
  parentPort.on("message", () => { going = false; });
  (async () => {
    const asked = [];
    for (let n = 0; n < least || (least === 0 && going); n++) {
      const began = performance.now();
      asked.push(fetch(base + "/u/" + tokens[n % tokens.length]).then(async (answer) => {
        await answer.text();
        return answer.status === 200 ? performance.now() - began : Infinity;
      }));
      await new Promise((ok) => setTimeout(ok, every));
    }
    parentPort.postMessage(await Promise.all(asked));
    process.exit(0);
  })();`;

/** Asks for unsubscribe pages ten times a second: so many, or (0) until it is told to stop. Gives the times, ms. */
function pages(base: string, least: number): { times: Promise<number[]>; stop(): void } {
  const signer = createSigner(KEY);
  const tokens = Array.from({ length: 1_000 }, (_, n) =>
    signer.sign({ kind: "message", recipient: 1 + n }),
  );
  const workerData = { base, tokens, every: EVERY_MS, least };
  const worker = new Worker(ASKING, { eval: true, workerData });
  return {
    times: new Promise((ok, fail) => worker.on("message", ok).on("error", fail)),
    stop: () => worker.postMessage("stop"),
  };
}

interface Measured {
  readonly idle: readonly number[];
  readonly heavy: readonly number[];
  readonly seconds: number;
}

async function measure(pauses: "0" | "1"): Promise<Measured> {
  const app = await startApplication(undefined, { SEPTIMA_KEY: KEY, SEPTIMA_PAUSES: pauses });
  const client = new Client(app);
  try {
    await client.post("/people/lists", { do: "add", name: "The whole town" });
    const lists = await client.get("/people/lists");
    const list =
      /name="list" value="([A-Za-z0-9]{12})"(?:(?!name="list").)*?value="The whole town"/s.exec(
        lists,
      )?.[1];
    if (!list) throw new Error("The list was not found");
    await importPeople(client, "reader", READERS, list);
    const undone = await importPeople(client, "gone", UNDONE, null);
    const source = /campaigns\/([A-Za-z0-9]{12})\/results/.exec(await client.get("/results"))![1];
    const made = await client.post("/campaigns/new", {
      name: "To all",
      from: `campaign:${source}`,
    });
    const campaign = made.headers.get("location")!;
    await client.post(`${campaign}/readers`, { [`list:${list}`]: "include" });
    const large = new TextEncoder().encode(
      csv("large", Math.ceil((FILE_MB * 1e6) / row("large", 500_000).length)),
    );
    const idle = pauses === "1" ? await pages(app.base, PAGES).times : [];

    tell("idle pages asked for");
    const began = performance.now();
    const asking = pages(app.base, 0);
    const works = Promise.all([
      client
        .post(undone, { do: "undo" })
        .then(() => client.until(undone, ">undone<"))
        .then(() => tell("taken back")),
      client
        .post(`${campaign}/schedule`, { when: "now" })
        .then(() => client.until(`${campaign}/sending`, '"starting":false'))
        .then(() => client.post(`${campaign}/schedule`, { what: "stop" }))
        .then(() => tell("launch started")),
      client.upload(large).then(async (id) => {
        await client.post(`/people/imports/${id}`, { do: "check", options: OPTIONS(null) });
        await client.until(`/people/imports/${id}`, "to be looked at");
        tell("large file read");
      }),
    ]);
    await works;
    const seconds = (performance.now() - began) / 1_000;
    asking.stop();
    const times = await asking.times;
    tell(
      `${times.length} pages, p50 ${at(times, 0.5).toFixed(0)}, p99 ${at(times, 0.99).toFixed(0)} ms`,
    );
    return { idle, heavy: times, seconds };
  } finally {
    await app.stop();
  }
}

export async function heavyGroup(figure: Figure): Promise<void> {
  const rested = await measure("1");
  const unrested = await measure("0");
  figure("idle_pages", rested.idle.length);
  figure("heavy_pages", rested.heavy.length);
  figure("page_idle_p99_ms", at(rested.idle, 0.99));
  figure("page_heavy_p50_ms", at(rested.heavy, 0.5));
  figure("page_heavy_p99_ms", at(rested.heavy, 0.99));
  figure("page_unrested_p99_ms", at(unrested.heavy, 0.99));
  figure("page_during_heavy_vs_idle", at(rested.heavy, 0.99) / at(rested.idle, 0.99));
  figure("heavy_seconds", rested.seconds);
  figure("heavy_slowdown", rested.seconds / unrested.seconds);
}
