/** Reads sources: on a schedule, or because somebody asks. */
import { FeedError } from "#core/items/feeds/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import { FetchError } from "../fetching/fetcher.ts";
import { PictureError } from "../images/pictures.ts";
import type { Services } from "../services.ts";
import { savePicture } from "../store/pictures.ts";
import { getSettings } from "../store/settings.ts";
import {
  getSource,
  notePicture,
  noteRead,
  noteTrouble,
  picturesToFetch,
  type Source,
  takeItems,
} from "../store/sources.ts";
import { feed } from "./feed.ts";
import type { SourceKind } from "./source.ts";

/** The kinds there are. A new one is a file beside this one and a line here. */
const KINDS: readonly SourceKind[] = [feed];

type Reader = Omit<Services, "wake" | "mailer">;

const after = (from: Date, minutes: number) => new Date(from.getTime() + minutes * 60_000);

/** Reads a source and takes its items. What is wrong with it is noted there. Gives when to read it next. */
async function readItems(services: Reader, source: Source): Promise<Date> {
  const { database, clock, log } = services;
  const { sql } = database;
  const kind = KINDS.find(({ kind }) => kind === source.kind)!;
  try {
    const { items, ...told } = await kind.read(services, source);
    const { zone } = (await getSettings(sql)).sender;
    const now = clock.now();
    await database.tx(async (tx) => {
      // Somebody may have removed it while the line was slow.
      if (!(await getSource(tx, source.id))) return;
      const changed = items !== null && (await takeItems(tx, source.id, items, zone, now));
      await noteRead(tx, source.id, { ...told, changed }, now);
    });
    return after(now, LIMITS.feedEvery);
  } catch (error) {
    const isTheirs = error instanceof FetchError || error instanceof FeedError;
    if (!isTheirs) throw error;
    log.info({ source: source.id, problem: error.message }, "a source could not be read");
    const now = clock.now();
    const failures = await noteTrouble(sql, source.id, error.message, now);
    const wait =
      LIMITS.feedWaits[Math.min(failures, LIMITS.feedWaits.length) - 1] ?? LIMITS.feedEvery;
    return after(now, wait);
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
  const wanting = await whileThere((tx) => picturesToFetch(tx, source, LIMITS.itemsPerPage));
  for (const wanted of wanting ?? []) {
    // What is left comes with the next reading.
    if (stopping.aborted || performance.now() - begun > LIMITS.fetchPicturesMs) return;
    let taken: string | null = null;
    try {
      const { bytes } = await fetcher(wanted.address, { accept: "image/*", signal: stopping });
      const picture = await pictures.add(bytes, wanted.title, true);
      await savePicture(sql, picture, clock.now(), true);
      taken = picture.id;
    } catch (error) {
      if (stopping.aborted) return;
      // An item without its picture is an item all the same.
      if (!(error instanceof FetchError) && !(error instanceof PictureError)) throw error;
    }
    await whileThere((tx) => notePicture(tx, source, wanted, taken));
  }
}

/** Reads a source and its pictures. Gives when to read it next; null where it is gone. */
export async function readSource(services: Reader, id: string): Promise<Date | null> {
  const source = await getSource(services.database.sql, id);
  if (!source) return null;
  const next = await readItems(services, source);
  await fetchPictures(services, id);
  return next;
}
