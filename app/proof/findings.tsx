/** What the checks find, beside the versions. */
import clsx from "clsx";
import { Link } from "react-router";
import { whoGets } from "#core/checks/order.ts";
import type { Finding, Mend } from "#core/kinds/kind.ts";
import { Later } from "../ui/later.tsx";
import { useEdits } from "./edit.ts";

const GROUNDS = { stop: "bg-rust", look: "bg-saffron", hint: "bg-line-strong" };

/** A finding with what its place is called; null where it is about the whole. */
export type PlacedFinding = Finding & { readonly place: string | null };

/** What the checks find, each with where it leads. */
export function Findings({
  campaign,
  seq,
  findings: late,
  checks,
}: {
  campaign: string;
  /** The state of the email that was looked at. */
  seq: number;
  findings: Promise<readonly PlacedFinding[]>;
  /** How many there are. */
  checks: number;
}) {
  const { busy, doing, edit } = useEdits(campaign, seq);
  const apply = ({ label, edits }: Mend) => edit(edits, `Done: ${label}`);
  /** From now on it is one of the brand's own words. */
  const keep = (word: string) =>
    doing("/settings/words", { word }, `“${word}” is one of our words`);
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
              {findings.map((finding) => (
                <li
                  key={`${finding.check} ${finding.at} ${finding.message}`}
                  className="flex gap-2.5 border-b py-2.5"
                >
                  <span
                    aria-hidden
                    className={clsx(
                      "mt-1 size-2.5 flex-none rounded-sm",
                      GROUNDS[finding.severity],
                    )}
                  />
                  <div>
                    <div className="text-body font-semibold">{finding.message}</div>
                    <div className="text-small text-ink-2">
                      {finding.severity === "stop" && (
                        <strong className="text-rust">Stops the send. </strong>
                      )}
                      {finding.severity === "hint" && "A hint. "}
                      {finding.place && `${finding.place}: `}
                      {finding.detail} {whoGets(finding)}
                    </div>
                    <div className="mt-1 flex flex-wrap gap-x-3 gap-y-1">
                      <Link className="link" to={jump(finding.at, finding.in)}>
                        Show
                      </Link>
                      {finding.word && (
                        <button
                          type="button"
                          className="link"
                          disabled={busy}
                          onClick={() => void keep(finding.word!)}
                        >
                          It is right
                        </button>
                      )}
                      {finding.mends?.map((mend) => (
                        <button
                          key={mend.label}
                          type="button"
                          className="link"
                          disabled={busy}
                          onClick={() => void apply(mend)}
                        >
                          {mend.label}
                        </button>
                      ))}
                    </div>
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
