/** What the checks find, beside the versions. */
import { Link } from "react-router";
import type { Finding } from "#core/kinds/kind.ts";
import { Later } from "../ui/later.tsx";

/** A finding with what its place is called; null where it is about the whole. */
export type PlacedFinding = Finding & { readonly place: string | null };

/** What the checks find, each with where it leads. */
export function Findings({
  campaign,
  findings: late,
  checks,
}: {
  campaign: string;
  findings: Promise<readonly PlacedFinding[]>;
  /** How many there are. */
  checks: number;
}) {
  const jump = (where: string, field: readonly string[] = []) =>
    where === "settings"
      ? "/settings"
      : `/campaigns/${campaign}?${new URLSearchParams({ at: where, ...(field.length && { in: field.join(".") }) })}`;
  return (
    <section aria-label="Findings">
      <div className="mb-1 flex items-baseline justify-between">
        <h2 className="text-head">Findings</h2>
        <span className="text-small text-ink-2">{checks} checks</span>
      </div>
      <Later of={late} until={<p className="text-ink-3">Looking…</p>}>
        {(findings) => (
          <>
            {findings.length === 0 && <p className="text-leaf">The checks found nothing.</p>}
            <ul>
              {findings.map((finding, i) => (
                <li key={i} className="flex gap-2.5 border-b py-2.5">
                  <span
                    aria-hidden
                    className={`mt-1 size-2.5 flex-none rounded-sm ${finding.severity === "stop" ? "bg-rust" : "bg-saffron"}`}
                  />
                  <div>
                    <div className="text-body font-semibold">{finding.message}</div>
                    <div className="text-small text-ink-2">
                      {finding.severity === "stop" && (
                        <strong className="text-rust">Stops the send. </strong>
                      )}
                      {finding.place && `${finding.place}: `}
                      {finding.detail}
                    </div>
                    <Link className="link mt-1 inline-block" to={jump(finding.at, finding.in)}>
                      Show
                    </Link>
                  </div>
                </li>
              ))}
            </ul>
          </>
        )}
      </Later>
    </section>
  );
}
