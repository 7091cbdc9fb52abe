/** All versions of an email on paper, as made-up readers get them: on one sheet, or on a page each. */
import { Printer } from "lucide-react";
import { Link, useSearchParams } from "react-router";
import { familyOf } from "#core/clients/index.ts";
import { LIMITS } from "#core/limits.ts";
import { counted } from "#server/campaigns/findings.ts";
import { madeUpLooks, versionsToReview } from "#server/reviews/looking.ts";
import { versionWords } from "../proof/words.tsx";
import { at, campaignOf, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { EmailFrame } from "../ui/email-frame.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { count, dated, readers, counted as said } from "../ui/words.ts";
import type { Route } from "./+types/campaign.print.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.name ?? "Campaign"} · Print` },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const email = (await counted(services, campaign))!;
  const { versions: all, parts } = await versionsToReview(services, campaign, email);
  const look = madeUpLooks(services, campaign, email, familyOf("sent"));
  return {
    id: campaign.id,
    name: campaign.name,
    at: dated(now, await zoneOf(context)),
    width: Number(email.stored.doc.root.props.width),
    all: all.length,
    parts,
    versions: all.slice(0, LIMITS.printedVersions).flatMap((version) => {
      const seen = look(version.key);
      return seen ? [{ ...version, subject: seen.subject, html: seen.html }] : [];
    }),
  };
}

type Printed = Route.ComponentProps["loaderData"]["versions"][number];

/** Of a version on the sheet of all, and its most height, px. */
const SMALL = { width: 166, most: 420 };
/** Of the wide and the narrow sheet on a page of its own, px. */
const PAGE = { wide: 400, narrow: 230 };

function Small({ version, width, words }: { version: Printed; width: number; words: string }) {
  return (
    <figure className="break-inside-avoid" style={{ width: SMALL.width }}>
      <EmailFrame
        html={version.html}
        title={words}
        width={width}
        scale={SMALL.width / width}
        most={SMALL.most}
      />
      <figcaption className="mt-1 text-small">{words}</figcaption>
    </figure>
  );
}

function Large({ version, width, words }: { version: Printed; width: number; words: string }) {
  return (
    <section className="w-full break-after-page">
      <h2 className="text-head">{words}</h2>
      <p className="mb-3 text-body">
        <span className="text-ink-2">Subject: </span>
        {version.subject}
      </p>
      <div className="flex flex-wrap items-start gap-5">
        <EmailFrame
          html={version.html}
          title={`Wide: ${words}`}
          width={width}
          scale={PAGE.wide / width}
        />
        <EmailFrame
          html={version.html}
          title={`Narrow: ${words}`}
          width={LIMITS.narrowWidth}
          scale={PAGE.narrow / LIMITS.narrowWidth}
        />
      </div>
    </section>
  );
}

export default function Print({ loaderData }: Route.ComponentProps) {
  const { id, name, versions, parts, width, all } = loaderData;
  const [asked, setAsked] = useSearchParams();
  const each = asked.has("each");
  const several = new Set(versions.map(({ lang }) => lang)).size > 1;
  const Shown = each ? Large : Small;
  return (
    <main className="mx-auto max-w-[760px] px-4 py-6 print:max-w-none print:p-0">
      <div className="mb-5 flex flex-wrap items-center gap-3 print:hidden">
        <Link to={`/campaigns/${id}/proof`} className="link font-semibold">
          Back to the proof
        </Link>
        <Segmented
          label="On paper"
          value={each ? "each" : "all"}
          options={[
            { value: "all", label: "All on one sheet" },
            { value: "each", label: "A page each" },
          ]}
          onChange={(value) => setAsked(value === "each" ? { each: "1" } : {})}
        />
        <Button primary onClick={() => window.print()}>
          <Printer className="size-3.5" /> Print
        </Button>
      </div>
      <h1 className="text-display">{name}</h1>
      <p className="mb-5 text-small text-ink-2">
        {said(all, "version")}
        {all > versions.length && `, the ${count(versions.length)} most frequent of them`} ·{" "}
        {loaderData.at} · names and other values are made up
      </p>
      <div className="flex flex-wrap items-start gap-x-5 gap-y-6">
        {versions.map((version, i) => (
          <Shown
            key={version.key}
            version={version}
            width={width}
            words={`${readers(version.people)}, ${versionWords(version, { parts, usual: i === 0, several })}`}
          />
        ))}
      </div>
    </main>
  );
}
