/** Adds a feed from its own address or from a page that names one. */
import { FeedError, feedsOfPage, readFeed } from "#core/items/feeds/index.ts";
import { LIMITS } from "#core/limits.ts";
import { DatabaseError } from "../db/database.ts";
import { FetchError } from "../fetching/fetcher.ts";
import type { Services } from "../services.ts";
import { hurry } from "../store/jobs.ts";
import { addSource, getSources, sourceAt } from "../store/sources.ts";
import { ACCEPT } from "./feed.ts";

export type Added = { readonly id: string } | { readonly problem: string };

/** The feed at an address, or the first that the page there names. Throws what a person is to be told. */
async function find({ fetcher, clock }: Pick<Services, "fetcher" | "clock">, written: string) {
  const whole = /^[a-z][a-z0-9+.-]*:\/\//i.test(written) ? written : `https://${written}`;
  const found = await fetcher(whole, { accept: ACCEPT });
  const read = (at: typeof found) => ({
    address: at.address,
    feed: readFeed(at.bytes, { ...at, now: clock.now() }),
  });
  try {
    return read(found);
  } catch (error) {
    if (!(error instanceof FeedError)) throw error;
    const [first] = feedsOfPage(found.bytes, found);
    if (!first) {
      const isPage = error.message.startsWith("This is a page");
      throw isPage
        ? new FeedError("This page names no feed. Give the address of the feed itself.")
        : error;
    }
    return read(await fetcher(first.address, { accept: ACCEPT }));
  }
}

/** Adds the feed that is at an address, or that the page there names, and has it read soon: whoever adds it may wake the queue. */
export async function addFeed(
  services: Omit<Services, "wake" | "mailer">,
  written: string,
): Promise<Added> {
  const { database, clock } = services;
  try {
    if ((await getSources(database.sql)).length >= LIMITS.sources) {
      return { problem: `At most ${LIMITS.sources} feeds.` };
    }
    const { address, feed } = await find(services, written.trim());
    const before = await sourceAt(database.sql, address);
    if (before) return { problem: `It is there already: “${before.name}”.` };
    const name = feed.title || new URL(address).hostname;
    const id = await database.tx(async (tx) => {
      const now = clock.now();
      const made = await addSource(tx, { kind: "feed", name, address, home: feed.home }, now);
      await hurry(tx, "readSource", { source: made }, now);
      return made;
    });
    return { id };
  } catch (error) {
    if (error instanceof FetchError || error instanceof FeedError)
      return { problem: error.message };
    if (error instanceof DatabaseError && error.code === "23505") {
      return { problem: "Somebody else has added it just now." };
    }
    throw error;
  }
}
