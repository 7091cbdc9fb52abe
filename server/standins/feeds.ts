/**
 * Three sites with feeds that ship with the application, so that there is something to read without a network: each
 * brings a new article every few days of their own time, in another format.
 */
import { createHash } from "node:crypto";
import { generateAtomFeed, generateJsonFeed, generateRssFeed } from "feedsmith";
import sharp from "sharp";
import { escapeHtml } from "#core/markup/index.ts";
import type { StandIn, StandInAnswer } from "../fetching/fetcher.ts";
import type { Settings } from "../store/settings.ts";
import { type Article, BENCH, NOTEBOOK, WALKS } from "./articles.ts";

const DAY = 86_400_000;
/** How many of the last articles a feed has. */
const LISTED = 30;

interface Entry extends Article {
  /** Its number since ever. */
  readonly number: number;
  readonly link: string;
  readonly picture: string;
  readonly published: Date;
}

interface Site {
  readonly host: string;
  readonly title: string;
  /** Days between two articles. */
  readonly every: number;
  readonly articles: readonly Article[];
  readonly feed: string;
  readonly type: string;
  write(site: Site, entries: readonly Entry[]): string;
}

const homeOf = ({ host }: Site) => `https://${host}/`;

const rss = (site: Site, entries: readonly Entry[]): string =>
  generateRssFeed({
    title: site.title,
    link: homeOf(site),
    description: site.title,
    items: entries.map(({ title, link, summary, category, author, picture, published }) => ({
      title,
      link,
      guid: { value: link },
      description: `<p><img src="${picture}" alt=""></p><p>${escapeHtml(summary)}</p>`,
      categories: [{ name: category }],
      dc: { creators: [author] },
      pubDate: published,
    })),
  });

const atom = (site: Site, entries: readonly Entry[]): string =>
  generateAtomFeed({
    id: homeOf(site),
    title: { value: site.title },
    updated: entries[0]!.published,
    links: [{ href: homeOf(site) }],
    entries: entries.map(({ title, link, summary, category, author, picture, published }) => ({
      id: link,
      title: { value: title },
      updated: published,
      published,
      links: [{ href: link }, { rel: "enclosure", type: "image/png", href: picture }],
      summary: { value: summary },
      authors: [{ name: author }],
      categories: [{ term: category }],
    })),
  });

const json = (site: Site, entries: readonly Entry[]): string =>
  JSON.stringify(
    generateJsonFeed({
      title: site.title,
      home_page_url: homeOf(site),
      items: entries.map(({ title, link, summary, category, author, picture, published }) => ({
        id: link,
        url: link,
        title,
        content_text: summary,
        image: picture,
        date_published: published,
        authors: [{ name: author }],
        tags: [category],
      })),
    }),
  );

const SITES: readonly Site[] = [
  {
    host: "notebook.larkmoor.example",
    title: "The gardeners’ notebook",
    every: 3,
    articles: NOTEBOOK,
    feed: "/feed.xml",
    type: "application/rss+xml",
    write: rss,
  },
  {
    host: "walks.larkmoor.example",
    title: "Walks and workshops",
    every: 2,
    articles: WALKS,
    feed: "/feed.json",
    type: "application/feed+json",
    write: json,
  },
  {
    host: "bench.larkmoor.example",
    title: "From the seed bench",
    every: 5,
    articles: BENCH,
    feed: "/atom.xml",
    type: "application/atom+xml",
    write: atom,
  },
];
/** The pages of the stand-ins, for whoever wants to try a feed. */
export const FEED_PAGES = SITES.map((site) => ({ title: site.title, address: homeOf(site) }));

function entriesOf(site: Site, now: Date): Entry[] {
  const last = Math.floor(now.getTime() / (site.every * DAY));
  return Array.from({ length: LISTED }, (_, i) => {
    const number = last - i;
    return {
      ...site.articles[number % site.articles.length]!,
      number,
      link: `${homeOf(site)}${number}`,
      picture: `${homeOf(site)}pictures/${number}.png`,
      published: new Date(number * site.every * DAY + 7.5 * 3_600_000),
    };
  }).filter(({ published }) => published <= now);
}

function pageOf(site: Site, entries: readonly Entry[]): string {
  const list = entries.map(
    ({ title, link }) => `<li><a href="${link}">${escapeHtml(title)}</a></li>`,
  );
  const title = escapeHtml(site.title);
  return `<!doctype html><html lang="en"><head><title>${title}</title><link rel="alternate" type="${site.type}" title="${title}" href="${site.feed}"></head><body><h1>${title}</h1><ul>${list.join("")}</ul></body></html>`;
}

const GROUNDS = ["#dfe6d5", "#f1e1c4", "#e7d7e0", "#d8e4ea", "#efe0d3"];
const HILLS = ["#8ea27a", "#b98b4e", "#8f6a80", "#6d8fa3", "#a9785c"];

/** A picture to a number: hills under a sun, never two alike. */
function pictureOf(number: number): Promise<Buffer> {
  const of = (n: number, most: number) => ((number * 7 + n * 13) % 97) * (most / 97);
  const hill = (n: number, y: number) =>
    `<path d="M0 ${y + of(n, 60)} Q ${200 + of(n + 1, 200)} ${y - 120 + of(n + 2, 90)} 800 ${y + of(n + 3, 60)} V 450 H 0 Z" fill="${HILLS[(number + n) % HILLS.length]}" fill-opacity="${0.55 + n / 10}"/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="800" height="450"><rect width="800" height="450" fill="${GROUNDS[number % GROUNDS.length]}"/><circle cx="${120 + of(5, 560)}" cy="${90 + of(6, 70)}" r="44" fill="#fff" fill-opacity=".7"/>${hill(1, 300)}${hill(2, 340)}${hill(3, 390)}</svg>`;
  return sharp(Buffer.from(svg)).png({ palette: true }).toBuffer();
}

async function answer(site: Site, path: string, now: Date): Promise<StandInAnswer | null> {
  const entries = entriesOf(site, now);
  if (path === "/") return { contentType: "text/html; charset=utf-8", body: pageOf(site, entries) };
  if (path === site.feed) {
    const body = site.write(site, entries);
    const etag = `"${createHash("sha256").update(body).digest("base64url").slice(0, 16)}"`;
    return { contentType: site.type, body, etag };
  }
  const picture = /^\/pictures\/(\d{1,9})\.png$/.exec(path);
  if (picture) return { contentType: "image/png", body: await pictureOf(Number(picture[1])) };
  const entry = entries.find(({ link }) => new URL(link).pathname === path);
  if (!entry) return null;
  const [title, summary] = [escapeHtml(entry.title), escapeHtml(entry.summary)];
  const body = `<!doctype html><html lang="en"><head><title>${title}</title></head><body><h1>${title}</h1><p>${summary}</p></body></html>`;
  return { contentType: "text/html; charset=utf-8", body };
}

/** The time of the stand-ins: it can be moved on, so that there is something new to see. */
export const standInTime = (now: Date, { standIns }: Pick<Settings, "standIns">): Date =>
  new Date(now.getTime() + standIns.ahead * DAY);

/** The stand-ins by their host; `now` is their own time. */
export const feedStandIns = (now: () => Promise<Date>): ReadonlyMap<string, StandIn> =>
  new Map(
    SITES.map((site) => [
      site.host,
      async (address) => answer(site, address.pathname, await now()),
    ]),
  );
