/** The fetcher as it ships: the stand-ins are asked in place of the network. */
import type { Clock } from "../clock.ts";
import type { Database } from "../db/database.ts";
import { createFetcher, type Fetcher } from "../fetching/fetcher.ts";
import { getSettings } from "../store/settings.ts";
import { feedStandIns, standInTime } from "./feeds.ts";

export const shippedFetcher = ({ sql }: Pick<Database, "sql">, clock: Clock): Fetcher =>
  createFetcher({
    standIns: feedStandIns(async () => standInTime(clock.now(), await getSettings(sql))),
  });
