/** What counting people needs, as things are now. */
import { DateTime } from "luxon";
import type { Clock } from "./clock.ts";
import type { Sql } from "./db/database.ts";
import { getSegments, type People } from "./store/audience.ts";
import { getFields } from "./store/contacts.ts";
import { getSettings } from "./store/settings.ts";

/** Fields, segments and today's date in the sender's zone. */
export async function people(sql: Sql, clock: Clock): Promise<People> {
  const { sender } = await getSettings(sql);
  const today = DateTime.fromJSDate(clock.now(), { zone: sender.zone }).toISODate()!;
  return { fields: await getFields(sql), segments: await getSegments(sql), now: { today } };
}
