/** Reads sources: on a schedule, or because somebody asks. */
import { FeedError } from "#core/items/feeds/index.ts";
import { readOffers } from "#core/items/products/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import { FetchError } from "../fetching/fetcher.ts";
import { PictureError } from "../images/pictures.ts";
import type { Services } from "../services.ts";
import {
  adoptPictures,
  changeOffers,
  notePicture,
  picturesToFetch,
  takeItems,
} from "../store/items.ts";
import { savePicture } from "../store/pictures.ts";
import { getSettings } from "../store/settings.ts";
import { getSource, noteRead, noteTrouble, type Source } from "../store/sources.ts";
import { sourceKind } from "./kinds.ts";

type Reader = Omit<Services, "wake" | "mailer">;

const after = (from: Date, minutes: number) => new Date(from.getTime() + minutes * 60_000);

/** Reads what is at the address of a source and takes its items, if anything has changed there. */
async function takeWhatIsThere(
  { database, clock, fetcher }: Reader,
  { id, kind, etag, lastModified }: Source,
  address: string,
): Promise<void> {
  const { accept, read } = sourceKind(kind);
  const found = await fetcher(address, { etag, lastModified, accept });
  const { zone } = (await getSettings(database.sql)).sender;
  const now = clock.now();
  const content = found.unchanged ? null : read(found, { now, zone });
  await database.tx(async (tx) => {
    // Somebody may have removed it while the line was slow.
    if (!(await getSource(tx, id))) return;
    const changed =
      content !== null && (await takeItems(tx, { id, kind }, content.items, now, content.whole));
    const known = found.unchanged ? { etag, lastModified } : found;
    await noteRead(tx, id, { ...known, home: content?.home, changed }, now);
  });
}

/** Reads the stock and the prices of a catalogue, where it says them at an address of their own. */
async function takeOffers({ database, clock, fetcher }: Reader, source: Source): Promise<void> {
  if (!source.stockAddress) return;
  const found = await fetcher(source.stockAddress, {
    accept: "text/csv, application/json, */*;q=0.5",
  });
  const offers = readOffers(found.bytes, found.contentType);
  const now = clock.now();
  await database.tx(async (tx) => {
    const there = await getSource(tx, source.id);
    if (!there) return;
    const changed = await changeOffers(tx, source.id, offers);
    const { etag, lastModified } = there;
    await noteRead(tx, source.id, { etag, lastModified, changed }, now);
  });
}

/** Reads a source. What is wrong with it is noted there. Gives when to read it next. */
async function readItems(services: Reader, source: Source): Promise<Date> {
  const { database, clock, log } = services;
  const { sql } = database;
  const { every } = sourceKind(source.kind);
  try {
    if (source.address) await takeWhatIsThere(services, source, source.address);
    await takeOffers(services, source);
    return after(clock.now(), source.stockAddress ? LIMITS.stockEvery : every);
  } catch (error) {
    const isTheirs = error instanceof FetchError || error instanceof FeedError;
    if (!isTheirs) throw error;
    log.info({ source: source.id, problem: error.message }, "a source could not be read");
    const now = clock.now();
    const failures = await noteTrouble(sql, source.id, error.message, now);
    const wait = LIMITS.feedWaits[Math.min(failures, LIMITS.feedWaits.length) - 1] ?? every;
    const asked = error instanceof FetchError ? error.retryAfter : null;
    return after(now, Math.max(wait, asked ?? 0));
  }
}

/** Fetches the pictures of the newest items, each once: they are kept by us and never linked from elsewhere. */
async function fetchPictures(services: Reader, source: string): Promise<void> {
  const { database, fetcher, pictures, clock, stopping } = services;
  const { sql } = database;
  const begun = performance.now();
  /** Work on its table, as long as there is one. */
  const whileThere = <T>(work: (tx: Sql) => Promise<T>) =>
    database.tx(async (tx) => ((await getSource(tx, source)) ? work(tx) : null));
  await whileThere((tx) => adoptPictures(tx, source));
  const wanting = await whileThere((tx) => picturesToFetch(tx, source, LIMITS.itemsPerPage));
  const left = (wanting ?? []).values();
  const some = async () => {
    for (const wanted of left) {
      // What is left comes with the next reading.
      if (stopping.aborted || performance.now() - begun > LIMITS.fetchPicturesMs) return;
      let taken: string | null = null;
      try {
        const { bytes } = await fetcher(wanted.address, { accept: "image/*", signal: stopping });
        const picture = await pictures.add(bytes, wanted.title, true);
        await savePicture(sql, picture, clock.now(), { ofItems: true });
        taken = picture.id;
      } catch (error) {
        if (stopping.aborted) return;
        // An item without its picture is an item all the same.
        if (!(error instanceof FetchError) && !(error instanceof PictureError)) throw error;
      }
      await whileThere((tx) => notePicture(tx, source, wanted, taken));
    }
  };
  // Whatever becomes of one of them, the other is waited for: nothing goes on behind a reading that has failed.
  const ends = await Promise.allSettled(Array.from({ length: LIMITS.picturesAtOnce }, some));
  const failed = ends.find((one) => one.status === "rejected");
  if (failed) throw failed.reason;
}

/** Reads a source and its pictures. Gives when to read it next; null where it is gone. */
export async function readSource(services: Reader, id: string): Promise<Date | null> {
  const source = await getSource(services.database.sql, id);
  if (!source) return null;
  const next = await readItems(services, source);
  await fetchPictures(services, id);
  return next;
}
