/** What happened with a person, the latest first. */
import { Link } from "react-router";
import type { TimelineEntry } from "#server/store/timeline.ts";
import { dated } from "../ui/words.ts";

function words(entry: TimelineEntry): string {
  switch (entry.kind) {
    case "accepted":
      return "was sent";
    case "bounced":
      return "did not take";
    case "opened":
      return "opened";
    case "clicked":
      return entry.about ? `clicked “${entry.about}” in` : "clicked in";
    case "unsubscribed":
      return "left by";
    case "complained":
      return "called spam";
    case "bought":
      return `bought ${entry.about ?? "something"}${entry.group ? ` (${entry.group})` : ""}`;
    case "viewed":
      return `looked at ${entry.about ?? "something"}${entry.group ? ` (${entry.group})` : ""}`;
    case "answered":
      return `answered “${entry.group ?? ""}” to “${entry.about ?? ""}”`;
    default:
      return entry.kind;
  }
}

export function Timeline({ entries, zone }: { entries: readonly TimelineEntry[]; zone: string }) {
  if (entries.length === 0) return <p className="text-ink-3">Nothing yet.</p>;
  return (
    <ol>
      {entries.map((entry, i) => (
        <li key={i} className="flex items-baseline gap-3 border-b py-1.5">
          <span className="w-32 flex-none text-small text-ink-3">{dated(entry.at, zone)}</span>
          <span>
            {words(entry)}{" "}
            {entry.campaignId && (
              <Link to={`/campaigns/${entry.campaignId}/results`} className="link">
                {entry.campaign}
              </Link>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}
