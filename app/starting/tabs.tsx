/** The ways to start a campaign. */
import clsx from "clsx";
import { Link } from "react-router";
import { BRINGS, type Bring, SHOWS, type Show } from "./address.ts";

export function Tabs({
  on,
  hrefTo = (show) => `/campaigns/new?show=${show}`,
}: {
  on: Show | Bring;
  hrefTo?: (show: Show) => string;
}) {
  const ways = [
    ...(Object.entries(SHOWS) as [Show, string][]).map(
      ([key, label]) => [key, label, hrefTo(key)] as const,
    ),
    ...(Object.entries(BRINGS) as [Bring, string][]).map(
      ([key, label]) => [key, label, `/campaigns/new/arrive?as=${key}`] as const,
    ),
  ];
  return (
    <nav aria-label="Start from" className="flex flex-wrap gap-x-6 gap-y-1">
      {ways.map(([key, label, to]) => (
        <Link
          key={key}
          to={to}
          aria-current={on === key ? "page" : undefined}
          className={clsx(
            "border-b-2 pb-0.5 font-display text-title italic",
            on === key ? "border-plum text-plum" : "border-transparent text-ink-2",
          )}
        >
          {label}
        </Link>
      ))}
    </nav>
  );
}
