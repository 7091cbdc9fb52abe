/** The A/B test of a launch: drawn once, decided once, the rest sent after it; across crashes. */
import { drawnFor, sizesOf, standingsOf, variantName, verdictOn } from "#core/splits/index.ts";
import type { Services } from "../services.ts";
import { getSchema } from "../store/fields.ts";
import { getLaunch, type Launch } from "../store/launches/freeze.ts";
import { progressOf } from "../store/launches/progress.ts";
import {
  cameOfVariants,
  chooseWinner,
  type DrawnReader,
  inDrawnOrder,
  noteDrawn,
  releaseRest,
  testedBy,
  writeDrawn,
} from "../store/launches/split.ts";
import { dueOf } from "./due.ts";
import type { Stop } from "./hand-over.ts";
import { later } from "./later.ts";
import { inPieces } from "./pieces.ts";

/** Draws who gets what, if nobody has, and lets the rest go if it is decided what they get. Gives the launch as it is then. */
export async function drawn(services: Services, launch: Launch): Promise<Launch> {
  if (launch.drawnAt === null) await draw(services, launch);
  const now = (await getLaunch(services.database.sql, launch.id))!;
  if (now.winner !== null) await release(services, now);
  return now;
}

async function draw(services: Services, launch: Launch): Promise<void> {
  const { database, clock } = services;
  const { sql } = database;
  const at = launch.startedAt ?? clock.now();
  const sizes = sizesOf((await progressOf(sql, launch.id)).total, launch.split!);
  const schema = await getSchema(sql);
  const due = await dueOf(sql, launch, schema, at);
  const tried = sizes.each * sizes.variants;
  const ids = await inDrawnOrder(sql, launch.id, sizes.control + tried);
  const readers = ids.map(
    (id, i): DrawnReader => ({
      ...{ id, drawn: drawnFor(i, sizes) },
      place: Math.max(0, i - sizes.control),
    }),
  );
  let written = 0;
  await inPieces(services, async (tx, rows) => {
    await writeDrawn(tx, launch, readers.slice(written, written + rows), schema, due, at);
    written += rows;
    return written < readers.length;
  });
  await database.tx(async (tx) => {
    await noteDrawn(tx, launch.id, at);
    // There is nothing to be decided where nothing is tried: they get it as it is written.
    if (tried === 0) await chooseWinner(tx, launch.id, 0, null, at);
  });
}

async function release(services: Services, launch: Launch): Promise<void> {
  const { database, clock } = services;
  const now = clock.now();
  const schema = await getSchema(database.sql);
  const due = await dueOf(database.sql, launch, schema, now, true);
  await inPieces(
    services,
    async (tx, rows) => (await releaseRest(tx, launch, rows, schema, due, now)) > 0,
  );
}

/**
 * Decides what the rest gets, once the test has gone out and its time is over. Gives when to come back, why a person
 * is waited for, or null where there is nothing to be decided any more.
 */
export async function decide(services: Services, launch: Launch): Promise<Date | Stop | null> {
  const { database, clock } = services;
  const { sql } = database;
  const now = clock.now();
  const { split, id, winner } = (await getLaunch(sql, launch.id))!;
  if (!split || winner !== null) return winner === launch.winner ? null : now;
  if (split.hours === null) {
    return { why: "split", reason: "Somebody is to decide which variant the rest gets." };
  }
  const ended = (await testedBy(sql, id)) ?? now;
  const at = later(ended, split.hours * 3_600_000);
  if (at > now) return at;
  const came = await cameOfVariants(sql, id, split.variants.length + 1);
  const standings = standingsOf(came[split.by]);
  const { leader, sure } = verdictOn(standings);
  if (sure || split.otherwise === "leader") {
    await chooseWinner(sql, id, leader, null, now);
    return now;
  }
  const chance = Math.floor(standings[leader]!.best * 100);
  return {
    why: "split",
    reason: `${variantName(leader)} leads, and is the best with ${chance} %: less than 95 %.`,
  };
}
