/** What one can start from, and how it is searched and seen. */
import clsx from "clsx";
import { Heart } from "lucide-react";
import { Link } from "react-router";
import { SearchForm } from "../ui/search.tsx";
import { CATEGORY_NAMES, hrefOf, type Shown } from "./address.ts";
import { Tabs } from "./tabs.tsx";

const CHIP = "inline-flex items-center gap-1 rounded-full px-2.5 py-0.5 text-small";

function ChipLink({
  to,
  on,
  label,
  children,
}: {
  to: string;
  on: boolean;
  label?: string;
  children: React.ReactNode;
}) {
  return (
    <Link
      to={to}
      replace
      preventScrollReset
      aria-current={on || undefined}
      aria-label={label}
      className={clsx(CHIP, on ? "bg-plum-soft font-semibold text-plum" : "bg-bench text-ink-2")}
    >
      {children}
    </Link>
  );
}

export function Ways({
  data: { shown, counts, themes },
}: {
  data: {
    readonly shown: Shown;
    readonly counts: { readonly categories: Record<string, number>; readonly kept: number };
    readonly themes: readonly { key: string; label: string; colours: readonly string[] }[];
  };
}) {
  const to = (change: Partial<Shown>) => hrefOf(shown, change);
  const { bare: _, ...those } = counts.categories;
  const all = Object.values(those).reduce((sum, n) => sum + n, 0);
  return (
    <>
      <div className="mb-4 flex flex-wrap items-center gap-x-6 gap-y-2">
        <Tabs
          on={shown.show}
          hrefTo={(show) =>
            hrefOf({ ...shown, search: "", category: null, theme: "", from: null }, { show })
          }
        />
        <nav aria-label="Theme" className="ml-auto flex flex-wrap items-center gap-2">
          <span className="text-small text-ink-2">shown in</span>
          {shown.show === "earlier" && (
            <ChipLink to={to({ theme: "own" })} on={shown.theme === "own"}>
              its own
            </ChipLink>
          )}
          {themes.map(({ key, label, colours }) => (
            <Link
              key={key}
              to={to({ theme: key })}
              replace
              preventScrollReset
              aria-label={key === "brand" ? `Your brand: ${label}` : label}
              title={key === "brand" ? `Your brand: ${label}` : label}
              aria-current={shown.theme === key || undefined}
              className={clsx(
                "flex h-6 w-13 overflow-hidden rounded-sm outline-offset-2",
                shown.theme === key ? "outline-2 outline-plum" : "outline-1 outline-line-strong",
              )}
            >
              {colours.map((colour) => (
                <span key={colour} className="flex-1" style={{ background: colour }} />
              ))}
            </Link>
          ))}
        </nav>
      </div>
      <div className="mb-4 flex flex-wrap items-center gap-x-3 gap-y-2">
        {shown.show !== "blank" && (
          <SearchForm
            key={shown.show}
            label={shown.show === "earlier" ? "Search earlier emails" : "Search templates"}
            hint="Search by name"
            search={shown.search}
          >
            <input type="hidden" name="show" value={shown.show} />
            {shown.category && <input type="hidden" name="category" value={shown.category} />}
            <input type="hidden" name="theme" value={shown.theme} />
          </SearchForm>
        )}
        {shown.show === "templates" && (
          <nav aria-label="Categories" className="flex flex-wrap gap-1.5">
            <ChipLink to={to({ category: null, from: null })} on={shown.category === null}>
              All {all}
            </ChipLink>
            {Object.entries(CATEGORY_NAMES).map(
              ([key, label]) =>
                key !== "bare" &&
                (those[key] ?? 0) > 0 && (
                  <ChipLink
                    key={key}
                    to={to({ category: key as Shown["category"], from: null })}
                    on={shown.category === key}
                  >
                    {label} {those[key]}
                  </ChipLink>
                ),
            )}
            <ChipLink
              to={to({ category: "kept", from: null })}
              on={shown.category === "kept"}
              label={`Kept ${counts.kept}`}
            >
              Kept <Heart className="size-3" aria-hidden /> {counts.kept}
            </ChipLink>
          </nav>
        )}
      </div>
    </>
  );
}
