/** The items of a launch at the moment it starts: looked at again, and taken as they are if that is wanted. */
import { linkedItems } from "#core/blocks/article.ts";
import { choicesIn } from "#core/blocks/choices.ts";
import {
  allChanges,
  type ItemChange,
  itemRef,
  type LiveItem,
  refOfItem,
  toldItem,
} from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { itemsSentBy, noteSent, type SentItem } from "../store/deeds.ts";
import { getItems } from "../store/items.ts";
import { type Launch, noteItems } from "../store/launches/freeze.ts";
import { pauseLaunch } from "../store/launches/pause.ts";
import { ownItemsSent, progressOf } from "../store/launches/progress.ts";
import { eachVariant } from "../store/launches/variants.ts";
import { forgetReady, surroundings } from "./emails.ts";

/** What the email shows of sources, each once, in any of its variants; where each reader has their own, all that anybody can have. */
const shownItems = (launch: Launch): LiveItem[] => [
  ...new Map(
    eachVariant(launch)
      .flatMap(({ surroundings: { live } }) => [...(live?.values() ?? [])])
      .flatMap(({ items }) => items.map((one) => [refOfItem(one), one])),
  ).values(),
];

/** The items that its articles keep to, in any of its variants. */
const articlesIn = (launch: Launch) => eachVariant(launch).flatMap(({ doc }) => linkedItems(doc));

/** What has become of the items of a launch since it was scheduled. */
async function changesSince(sql: Sql, launch: Launch, at: Date): Promise<ItemChange[]> {
  const shown = shownItems(launch);
  const articles = articlesIn(launch);
  const now = await getItems(sql, [...shown, ...articles]);
  const others = articles.flatMap(({ source, key, told }): ItemChange[] => {
    const item = now.get(itemRef(source, key));
    const same = item && JSON.stringify(toldItem(item)) === JSON.stringify(told);
    // One that is too old to be kept in its feed has not changed.
    return item && !same
      ? [{ kind: "words", words: `“${told.title}” has changed at its source.` }]
      : [];
  });
  return [...allChanges(shown, now, at.getTime()), ...others];
}

/** So many changes are named; the others are counted. */
const NAMED = 4;
function inWords(changes: readonly ItemChange[]): string {
  const named = changes.slice(0, NAMED).map(({ words }) => words);
  const more = changes.length - named.length;
  return [...named, ...(more > 0 ? [`And ${more} more.`] : [])].join(" ");
}

/**
 * Looks at the items of a launch that has just begun, once. Gives false where it stands still now, because of something
 * that was named when it was scheduled: whoever lets it go on says that it may.
 */
export async function lookAgain(services: Services, launch: Launch): Promise<boolean> {
  if (launch.itemsChecked) return true;
  const { database, clock, config } = services;
  const now = clock.now();
  const variants = eachVariant(launch);
  const choices = variants.flatMap(({ doc }) => choicesIn(doc));
  if (choices.length === 0 && articlesIn(launch).length === 0) return true;
  const { take, stopAt } = launch.itemsPlan;
  const goesOn = await database.tx(async (tx) => {
    const changes = await changesSince(tx, launch, now);
    const stops = changes.filter(({ kind }) => stopAt.includes(kind));
    for (const one of variants) {
      const around =
        take === "fresh"
          ? await surroundings(tx, config, one.doc, now, launch.campaignId)
          : one.surroundings;
      await noteItems(tx, one, around, now);
    }
    if (stops.length > 0) {
      const reason = inWords(stops);
      await pauseLaunch(tx, launch.id, { why: "items", reason, resumeAt: null }, now);
    }
    return stops.length === 0;
  });
  forgetReady(launch.id);
  return goesOn;
}

/** The items of a launch that are the same for all who see them. */
const forAll = (launch: Launch) => [
  ...eachVariant(launch)
    .flatMap(({ surroundings: { live } }) => [...(live?.values() ?? [])])
    .flatMap(({ items, perReader }) => (perReader ? [] : items)),
  ...articlesIn(launch),
];

/**
 * Notes what a launch that has ended has sent, if anybody got it, so that digests can leave it out and results can tell
 * it: what is the same for all, and what readers had of their own.
 */
export async function noteSentItems(sql: Sql, launch: Launch, now: Date): Promise<void> {
  const { accepted } = await progressOf(sql, launch.id);
  if (accepted === 0) return;
  const own = await ownItemsSent(sql, launch.id);
  const each = new Map<string, SentItem>();
  for (const { source, key } of shownItems(launch)) {
    const ref = itemRef(source, key);
    const readers = own.get(ref);
    if (readers !== undefined) each.set(ref, { source, key, readers });
  }
  for (const { source, key } of forAll(launch)) {
    each.set(itemRef(source, key), { source, key, readers: null });
  }
  const all = [...each.values()];
  for (let from = 0; from < all.length; from += LIMITS.itemsPerPage) {
    await noteSent(sql, launch.campaignId, all.slice(from, from + LIMITS.itemsPerPage), now);
  }
}

/** What a launch has sent, with the titles it had then: what was for all, then what most readers had of their own. */
export async function sentItemsOf(
  sql: Sql,
  launch: Launch,
): Promise<readonly (SentItem & { readonly title: string })[]> {
  const titles = new Map([
    ...articlesIn(launch).map(({ source, key, told }) => [itemRef(source, key), told.title]),
    ...shownItems(launch).map((item) => [refOfItem(item), item.title]),
  ] as [string, string][]);
  return (await itemsSentBy(sql, launch.campaignId)).map((item) => ({
    ...item,
    title: titles.get(itemRef(item.source, item.key)) || "Untitled",
  }));
}
