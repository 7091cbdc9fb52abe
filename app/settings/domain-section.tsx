/** The domain that emails come from: what it publishes, so that mail is taken as its own. */
import clsx from "clsx";
import { Copy } from "lucide-react";
import { Link, useNavigation } from "react-router";
import type { DomainRecord } from "#core/mail/index.ts";
import { IconButton } from "../ui/button.tsx";
import { useCopy } from "../ui/copy.ts";
import { Later } from "../ui/later.tsx";
import { CARD, type SettingsData } from "./section.ts";

const KINDS = { spf: "SPF", dkim: "DKIM", dmarc: "DMARC" };
const STATES: Record<DomainRecord["state"], { label: string; tone: string }> = {
  right: { label: "Published", tone: "text-leaf" },
  missing: { label: "Missing", tone: "text-rust" },
  wrong: { label: "Not right", tone: "text-rust" },
  unknown: { label: "Not known", tone: "text-ink-2" },
};

function Value({ label, text }: { label: string; text: string }) {
  const copy = useCopy();
  const what = label.toLowerCase();
  return (
    <div className="flex items-start gap-2 text-small">
      <span className="w-12 flex-none pt-1 text-ink-2">{label}</span>
      <code className="min-w-0 flex-1 rounded-md bg-bench px-2 py-1 break-all">{text}</code>
      <IconButton
        label={`Copy the ${what}`}
        onClick={() => void copy(text, `The ${what} is copied`)}
      >
        <Copy />
      </IconButton>
    </div>
  );
}

function Record({ one }: { one: DomainRecord }) {
  const { label, tone } = STATES[one.state];
  return (
    <li className="flex flex-col gap-1 border-b py-2.5">
      <div className="flex items-baseline gap-2">
        <strong>{KINDS[one.kind]}</strong>
        <span className={clsx("text-small font-semibold", tone)}>{label}</span>
      </div>
      <p className="text-small text-ink-2">{one.says}</p>
      {one.state !== "right" && (
        <>
          <Value label="Name" text={one.name} />
          {one.wanted && <Value label="TXT" text={one.wanted} />}
          {one.found.length > 0 && (
            <p className="text-small break-all text-ink-2">There now: {one.found.join(" · ")}</p>
          )}
        </>
      )}
    </li>
  );
}

export function DomainSection({ domain }: Pick<SettingsData, "domain">) {
  const asking = useNavigation().location?.search.includes("ask") ?? false;
  return (
    <section aria-labelledby="section-domain" className={CARD}>
      <h2 id="section-domain" className="text-head">
        Sending domain
      </h2>
      {domain ? (
        <>
          <p className="text-small text-ink-2">
            Emails are signed for <strong className="text-ink">{domain.name}</strong>. Whoever looks
            after its DNS publishes these TXT records; mail programs ask for them.
          </p>
          <Later of={domain.records} until={<p className="text-small text-ink-2">Asking DNS…</p>}>
            {(records) => (
              <ul aria-label="DNS records">
                {records.map((one) => (
                  <Record key={one.name + one.wanted} one={one} />
                ))}
              </ul>
            )}
          </Later>
          <p className="text-small">
            <Link to="?ask" replace preventScrollReset className="link" aria-disabled={asking}>
              {asking ? "Asking DNS…" : "Ask DNS again"}
            </Link>
          </p>
        </>
      ) : (
        <p className="text-small text-ink-2">
          Write the from address above: what its domain has to publish stands here then.
        </p>
      )}
    </section>
  );
}
