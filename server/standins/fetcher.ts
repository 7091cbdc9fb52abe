/** The fetcher as it ships: the stand-ins are asked in place of the network. */
import type { Clock } from "../clock.ts";
import type { Database } from "../db/database.ts";
import { createFetcher, type Fetcher } from "../fetching/fetcher.ts";
import { getSettings } from "../store/settings.ts";
import { CALENDAR_ADDRESS, calendarStandIn } from "./calendar.ts";
import { FEED_PAGES, feedStandIns, standInTime } from "./feeds.ts";
import { SHOP_ADDRESS, shopStandIn } from "./shop.ts";
import { siteStandIn } from "./site.ts";

/** What ships to be tried, by the kind of source. */
export const STAND_INS: Readonly<Record<string, readonly { title: string; address: string }[]>> = {
  feed: FEED_PAGES,
  catalogue: [{ title: "Seed shop", address: SHOP_ADDRESS }],
  calendar: [{ title: "Walks and workshops calendar", address: CALENDAR_ADDRESS }],
};

export const shippedFetcher = ({ sql }: Pick<Database, "sql">, clock: Clock): Fetcher => {
  const now = async () => standInTime(clock.now(), await getSettings(sql));
  return createFetcher({
    standIns: new Map([
      ...feedStandIns(now),
      shopStandIn(now),
      calendarStandIn(now),
      siteStandIn(),
    ]),
  });
};
