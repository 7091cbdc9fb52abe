/** Readers that ship with the application: they open, click, order and leave through the addresses in their messages. */
import { createHmac, randomUUID } from "node:crypto";
import { setTimeout as sleep } from "node:timers/promises";
import { simpleParser } from "mailparser";
import { LIMITS } from "#core/limits.ts";
import { chance } from "#core/random.ts";
import type { Services } from "../../services.ts";
import { messageSource, takeUnread } from "../../store/outbox.ts";
import { getSources } from "../../store/sources.ts";
import { GOODS } from "../shop.ts";
import { complain } from "./complain.ts";
import { type Act, actsOf, type Offered, seedOf } from "./temper.ts";

/** How each names itself (RFC 9110, 10.1.5). */
const AGENTS = {
  person: "Mozilla/5.0 (X11; Linux x86_64) Mailreader/12.1",
  pictures: "Mail image proxy/1.0",
  scanner: "Link scanner/3.2",
} as const;

const ALL_HREFS = /\b(?:href|src)="([^"]+)"/g;
const unescaped = (address: string) => address.replaceAll("&amp;", "&");

/** What a message offers. Links are those of its HTML; the one that leaves is that of its header (RFC 8058). */
export async function offeredBy(source: Buffer, base: string): Promise<Offered | null> {
  const parsed = await simpleParser(source, { skipHtmlToText: true, skipTextToHtml: true });
  const to = (Array.isArray(parsed.to) ? parsed.to[0] : parsed.to)?.value[0]?.address;
  if (!to || !parsed.html) return null;
  const found = [...parsed.html.matchAll(ALL_HREFS)].map(([, address]) => unescaped(address!));
  const under = (path: string) => [
    ...new Set(found.filter((one) => one.startsWith(`${base}${path}`))),
  ];
  const leave = /List-Unsubscribe:[^\n]*?<(https?:[^>]+)>/i.exec(
    source.toString("latin1").replace(/\r?\n[ \t]+/g, " "),
  );
  return {
    to,
    from: /^Return-Path: <([^>]*)>/.exec(source.toString("latin1", 0, 400))?.[1] ?? "",
    subject: parsed.subject ?? "",
    pixel: under("/o/")[0] ?? null,
    links: under("/c/"),
    answers: under("/q/"),
    leave: leave?.[1] ?? null,
  };
}

export interface Reading {
  /** Messages that are read, and acts that are still to come. */
  readonly messages: number;
  left: number;
  /** Acts that the application did not take. */
  failed: number;
}

const readings = new WeakMap<object, Reading>();
/** What is being read at this moment; null where nothing is. */
export const readingNow = ({ database }: Pick<Services, "database">): Reading | null =>
  readings.get(database) ?? null;

type Planned = Act & Pick<Offered, "to" | "from">;

/** Reads the messages that nobody has read yet, within a time; gives how many, and when all of it is done. */
export async function letRead(
  services: Services,
  withinMs: number,
): Promise<{ messages: number; done: Promise<void> }> {
  const { sql } = services.database;
  const ids = await takeUnread(sql, LIMITS.readAtOnce);
  // Until it is known what they do, each message is one thing to come.
  const reading: Reading = { messages: ids.length, left: ids.length, failed: 0 };
  readings.set(services.database, reading);
  const all = async () => {
    const planned = await planFor(services, ids);
    reading.left = planned.length;
    await act(services, planned, withinMs, reading);
  };
  return { messages: ids.length, done: all().finally(() => readings.delete(services.database)) };
}

/** What the readers of some messages do, in the order of time. */
async function planFor(
  { database, config }: Pick<Services, "database" | "config">,
  messages: readonly number[],
): Promise<Planned[]> {
  const planned: Planned[] = [];
  for (const id of messages) {
    const source = await messageSource(database.sql, id);
    const offered = source && (await offeredBy(source, config.publicAddress));
    if (offered)
      planned.push(
        ...actsOf(offered).map((one) => ({ ...one, to: offered.to, from: offered.from })),
      );
  }
  return planned.sort((a, b) => a.at - b.at);
}

/** Does it all in its time, a few at once; ends early when the process is told to. */
async function act(
  services: Services,
  planned: readonly Planned[],
  withinMs: number,
  reading: Reading,
): Promise<void> {
  const began = Date.now();
  // Whoever reads within a blink is taken for a machine, as they should be.
  const first = LIMITS.readFromMs + 200;
  const due = (one: Planned) => began + (one.by === "person" ? first : 0) + one.at * withinMs;
  let next = 0;
  const hand = async () => {
    for (let one = planned[next++]; one; one = planned[next++]) {
      const wait = due(one) - Date.now();
      if (wait > 0) await sleep(wait, undefined, { signal: services.stopping }).catch(() => {});
      if (services.stopping.aborted) break;
      if (!(await does(services, one).catch(() => false))) reading.failed++;
      reading.left--;
    }
  };
  await Promise.all(Array.from({ length: LIMITS.readParallel }, hand));
  if (reading.failed > 0) {
    services.log.warn({ failed: reading.failed }, "some of what readers did was not taken");
  }
}

async function does(services: Services, one: Planned): Promise<boolean> {
  const headers = { "User-Agent": AGENTS[one.by] };
  switch (one.does) {
    case "open":
    case "click": {
      const answer = await fetch(one.address!, { headers, redirect: "manual" });
      return answer.status < 400;
    }
    case "answer": {
      const page = await fetch(one.address!, { headers });
      if (!page.ok) return false;
      // As the page itself says it, from where it stands.
      const own = { ...headers, Origin: new URL(one.address!).origin };
      const answer = await fetch(one.address!, {
        method: "POST",
        headers: own,
        body: new URLSearchParams({ do: "count" }),
      });
      return answer.status < 400;
    }
    case "leave": {
      const answer = await fetch(one.address!, {
        method: "POST",
        headers,
        body: new URLSearchParams({ "List-Unsubscribe": "One-Click" }),
      });
      return answer.status < 400;
    }
    case "order":
      return orders(services, one.to);
    case "complain":
      return complain(services.config, one.from);
  }
}

/** The shop tells what somebody has bought, as shops do. */
async function orders({ database, config, clock }: Services, email: string): Promise<boolean> {
  const shop = (await getSources(database.sql, "catalogue")).find(({ secret }) => secret);
  if (!shop) return true;
  const own = chance(seedOf(email));
  const [product, , , amount] = own.pick(GOODS);
  const body = JSON.stringify({
    id: randomUUID(),
    orders: [
      {
        email,
        at: clock.now().toISOString(),
        items: [{ product, quantity: 1, amount, currency: "GBP" }],
      },
    ],
  });
  const signature = createHmac("sha256", shop.secret!).update(body).digest("hex");
  const answer = await fetch(`${config.publicAddress}/shop/${shop.id}`, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-Signature": signature },
    body,
  });
  return answer.ok;
}
