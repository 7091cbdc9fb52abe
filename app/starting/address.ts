/** What the start of a campaign shows, as its address says it. */
import { CATEGORIES, type Category, isCategory } from "#core/templates/categories.ts";

export const SHOWS = {
  templates: "A template",
  earlier: "An earlier email",
  blank: "Blank",
} as const;
export type Show = keyof typeof SHOWS;
/** What somebody brings along. */
export const BRINGS = { text: "A text of yours", file: "A file or HTML" } as const;
export type Bring = keyof typeof BRINGS;

export interface Shown {
  readonly show: Show;
  readonly search: string;
  /** A category of templates, those that somebody keeps, or all. */
  readonly category: Category | "kept" | null;
  /** `own`, `brand`, or one that ships. */
  readonly theme: string;
  /** What is chosen. */
  readonly from: string | null;
}

export function shownAt(url: URL, search: string): Shown {
  const { searchParams: asked } = url;
  const from = asked.get("from");
  const [show, category] = [asked.get("show") ?? "", asked.get("category") ?? ""];
  const fits = from?.startsWith("campaign:") ? "earlier" : from === "blank" ? "blank" : "templates";
  return {
    show: Object.hasOwn(SHOWS, show) ? (show as Show) : fits,
    search,
    category:
      category === "kept" || (isCategory(category) && category !== "bare") ? category : null,
    theme: asked.get("theme") ?? "",
    from,
  };
}

/** The address of a change to it: what is left out stays as it is. */
export function hrefOf(shown: Shown, change: Partial<Shown>): string {
  const next = { ...shown, ...change };
  const words = Object.entries(next).filter(([, value]) => value) as [string, string][];
  return `?${new URLSearchParams(words)}`;
}

export const CATEGORY_NAMES = CATEGORIES;
