/** Adds a source from its own address, or from a page that names one; or an empty one, to be filled by hand. */
import { FeedError } from "#core/items/feeds/index.ts";
import { LIMITS } from "#core/limits.ts";
import { DatabaseError } from "../db/database.ts";
import { FetchError, type Fetched } from "../fetching/fetcher.ts";
import { newSecret } from "../ids.ts";
import type { Services } from "../services.ts";
import { hurry } from "../store/jobs.ts";
import { getSettings } from "../store/settings.ts";
import { addSource, getSources, sourceAt } from "../store/sources.ts";
import { sourceKind } from "./kinds.ts";
import type { Content } from "./source.ts";

export type Added = { readonly id: string } | { readonly problem: string };
type Reader = Omit<Services, "wake" | "mailer">;

/** An address as it is typed: without a scheme it is a web address, and so is what calendars write for one. */
const whole = (written: string): string => {
  const text = written.trim().replace(/^webcals?:\/\//i, "https://");
  return /^[a-z][a-z0-9+.-]*:\/\//i.test(text) ? text : `https://${text}`;
};

/** What stands at an address, or at the one that the page there names. Throws what a person is to be told. */
async function find(
  { fetcher, clock, database }: Reader,
  kind: string,
  written: string,
): Promise<{ address: string; content: Content }> {
  const { accept, read, namedBy } = sourceKind(kind);
  const { zone } = (await getSettings(database.sql)).sender;
  const at = { now: clock.now(), zone };
  const found = await fetcher(whole(written), { accept });
  const told = (one: Fetched) => ({ address: one.address, content: read(one, at) });
  try {
    return told(found);
  } catch (error) {
    if (!(error instanceof FeedError)) throw error;
    const named = namedBy?.(found);
    if (!named) throw error;
    return told(await fetcher(named, { accept }));
  }
}

/** Why nothing more can be added, or what went wrong in words; anything else is thrown on. */
async function told(services: Reader, add: () => Promise<Added>): Promise<Added> {
  try {
    if ((await getSources(services.database.sql)).length >= LIMITS.sources) {
      return { problem: `At most ${LIMITS.sources} feeds, catalogues and calendars.` };
    }
    return await add();
  } catch (error) {
    if (error instanceof FetchError || error instanceof FeedError) {
      return { problem: error.message };
    }
    if (error instanceof DatabaseError && error.code === "23505") {
      return { problem: "Somebody else has added it just now." };
    }
    throw error;
  }
}

/** With which a shop signs what it tells. */

/** Adds what is at an address, and has it read soon: whoever adds it may wake the queue. */
export const addSourceAt = (services: Reader, kind: string, written: string): Promise<Added> =>
  told(services, async () => {
    const { database, clock } = services;
    const { address, content } = await find(services, kind, written);
    const before = await sourceAt(database.sql, address);
    if (before) return { problem: `It is there already: “${before.name}”.` };
    const name = content.title || new URL(address).hostname;
    const { home } = content;
    const id = await database.tx(async (tx) => {
      const now = clock.now();
      const made = await addSource(tx, { kind, name, address, home, secret: newSecret() }, now);
      await hurry(tx, "readSource", { source: made }, now);
      return made;
    });
    return { id };
  });

/** Adds one without an address, to be filled from files. */
export const addEmptySource = (services: Reader, kind: string, name: string): Promise<Added> =>
  told(services, async () => {
    const { database, clock } = services;
    const own = { kind, name, address: null, home: "", secret: newSecret() };
    return { id: await database.tx((tx) => addSource(tx, own, clock.now())) };
  });

/** Whether stock and prices can be read at an address: the address in full, or what is wrong. */
export async function lookAtStock(
  { fetcher }: Reader,
  written: string,
  read: (found: Fetched) => unknown,
): Promise<{ address: string } | { problem: string }> {
  try {
    const found = await fetcher(whole(written), {
      accept: "application/json, text/csv, */*;q=0.5",
    });
    read(found);
    return { address: found.address };
  } catch (error) {
    if (error instanceof FetchError || error instanceof FeedError) {
      return { problem: error.message };
    }
    throw error;
  }
}
