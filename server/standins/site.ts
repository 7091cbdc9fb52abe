/** The garden's website, which ships with the application: some pages are there, some have moved, others have gone. */
import { escapeHtml } from "#core/markup/index.ts";
import type { StandIn } from "../fetching/fetcher.ts";

export const SITE_HOST = "larkmoor.example";

/** Where everything below is there. */
const PARTS = new Set(
  "visit map walks evening evenings friends hill saltmere seeds notebook photos films events shop".split(
    " ",
  ),
);
/** What has moved, and where to. */
const MOVED: Readonly<Record<string, string>> = {
  garden: "/visit",
  beds: "/garden",
  "old-shop": "https://shop.larkmoor.example/",
};

export const siteStandIn = (): [string, StandIn] => [
  SITE_HOST,
  ({ pathname }) => {
    const part = pathname.split("/")[1] ?? "";
    const location = Object.hasOwn(MOVED, part) ? MOVED[part] : undefined;
    if (part !== "" && !PARTS.has(part) && !location) return null;
    return {
      contentType: "text/html; charset=utf-8",
      body: `<!doctype html><title>Larkmoor</title><p>${escapeHtml(pathname)}</p>`,
      ...(location && { location }),
    };
  },
];
