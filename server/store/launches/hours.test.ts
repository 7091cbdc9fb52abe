/** The hours in which readers read, from what they have opened and clicked. */
import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { fragment } from "#core/rules/index.ts";
import { NO_HOURS } from "#core/schedule/index.ts";
import type { Database } from "../../db/database.ts";
import { openTestDatabase } from "../../testing/database.ts";
import { addContacts } from "../contacts.ts";
import { addFields, getSchema } from "../fields.ts";
import { hoursSeen } from "./hours.ts";

const NOW = new Date("2026-03-02T10:00:00Z");
const DAY_MS = 86_400_000;

let database: Database;
let ids: number[];
/** One in Tokyo, one in London, one in a zone that is none, and one who opens nothing. */
beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  await addFields(sql, [{ id: "zone", label: "Zone", type: "text" }]);
  ids = await addContacts(
    sql,
    ["Asia/Tokyo", "Europe/London", "Moon/Base", ""].map((zone, i) => ({
      email: `p${i}@x.example`,
      values: (zone ? { zone } : {}) as Record<string, string>,
      createdAt: NOW,
    })),
  );
  const does = async (who: number, kind: string, at: number | string, machine = false) => {
    await sql`insert into events (kind, at, contact_id, machine)
      values (${kind}, ${new Date(at)}, ${ids[who]!}, ${machine})`;
  };
  const oldest = NOW.getTime() - LIMITS.bestHourDays * DAY_MS;
  await does(0, "opened", "2026-03-01T21:59:59Z");
  await does(0, "clicked", "2026-03-01T21:30:00Z");
  await does(1, "opened", "2026-03-01T18:00:00Z");
  await does(2, "opened", "2026-03-01T18:30:00Z");
  // None of these counts: a machine, what was sent, what is to come, and what is as old as half a year.
  await does(3, "opened", "2026-03-01T03:00:00Z", true);
  await does(3, "accepted", "2026-03-01T03:00:00Z");
  await does(3, "opened", NOW.getTime() + 1_000);
  await does(3, "opened", oldest);
  // A moment later it does.
  await does(1, "opened", oldest + 1_000);
});
afterAll(() => database.close());

const at = (hours: Readonly<Record<number, number>>) => NO_HOURS.map((_, i) => hours[i] ?? 0);

async function seen(field: string | null, quiet: { from: number; to: number } | null = null) {
  const schema = await getSchema(database.sql);
  const where = { field, zones: ["Asia/Tokyo", "Europe/London"], zone: "Europe/London" };
  return hoursSeen(database.sql, where, schema, fragment`true`, quiet, NOW);
}

it("are by each reader's own clock, the sender's where they name none that is known", async () => {
  const { hours, readers, silent } = await seen("zone");
  expect({ readers, silent }).toEqual({ readers: 4, silent: 1 });
  // Six in the morning in Tokyo; six in the evening in London, for whom the zone is unknown too, and for the silent.
  expect(hours).toEqual(at({ 6: 1, 18: 3 }));
});

it("are by the sender's clock where no field names a zone", async () => {
  expect((await seen(null)).hours.reduce((sum, n) => sum + n, 0)).toBe(4);
  expect((await seen(null)).hours[6]).toBe(0);
  expect((await seen(null)).hours[21]).toBeGreaterThan(0);
});

it("are never quiet ones", async () => {
  const { hours } = await seen("zone", { from: 18, to: 9 });
  for (const [hour, n] of hours.entries()) if (hour >= 18 || hour < 9) expect(n).toBe(0);
  expect(hours.reduce((sum, n) => sum + n, 0)).toBe(4);
});

it("are of those who fit alone", async () => {
  const schema = await getSchema(database.sql);
  const where = { field: "zone", zones: ["Asia/Tokyo"], zone: "Europe/London" };
  const only = fragment`c.id = ${ids[0]!}`;
  expect(await hoursSeen(database.sql, where, schema, only, null, NOW)).toEqual({
    ...{ hours: at({ 6: 1 }), readers: 1, silent: 0 },
  });
});
