/** The frame of a campaign: its name and its five rooms. */
import { lazy, Suspense, use, useCallback, useMemo, useState } from "react";
import { data, Link, NavLink, Outlet, redirect, useLocation, useOutletContext } from "react-router";
import type { Finding } from "#core/kinds/kind.ts";
import { renameCampaign } from "#server/store/campaigns.ts";
import { nameSchema } from "../campaigns/name-schema.ts";
import { submissionOf } from "../form.ts";
import { asking, marksOf, type Readiness } from "../marks.ts";
import { BEGUN, standingOf } from "../readiness.ts";
import { at, campaignOf, late } from "../request.ts";
import { DOT_WORDS, Dot } from "../ui/dot.tsx";
import { Chip } from "../ui/page.tsx";
import { Wordmark } from "../ui/wordmark.tsx";
import type { Route } from "./+types/campaign.ts";

const ROOMS = [
  ["compose", "", "Compose"],
  ["readers", "/readers", "Readers"],
  ["proof", "/proof", "Proof"],
  ["schedule", "/schedule", "Schedule"],
  ["results", "/results", "Results"],
] as const;

const Rename = lazy(() => import("../campaigns/rename.tsx"));

interface Standing {
  readonly marks: Readiness;
  /** How many things the checks found. */
  readonly findings: number;
}
const BEGUN_STANDING: Standing = { marks: BEGUN, findings: 0 };
const UNKNOWN: Standing = {
  marks: { compose: "open", readers: "open", proof: "open", schedule: "open", results: "open" },
  findings: 0,
};

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.name ?? "Campaign"} · Septima` },
];

/** The rooms that a variant has of its own; the others are those of its campaign. */
const OF_VARIANT = new Set(["compose", "proof"]);

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const { variantOf } = campaign;
  const { pathname } = new URL(request.url);
  const elsewhere = ROOMS.find(
    ([room, path]) => path && !OF_VARIANT.has(room) && pathname.endsWith(path),
  );
  if (variantOf && elsewhere) throw redirect(`/campaigns/${variantOf}${elsewhere[1]}`);
  // What has begun to go out was found ready, and is asked about no more.
  const begun = campaign.state === "sending" || campaign.state === "sent";
  // Counting takes its time in a large house: the room does not wait for it.
  const standing = begun
    ? BEGUN_STANDING
    : late(context, async () => {
        try {
          const { marks, findings } = await standingOf(context, campaign);
          return { marks, findings: asking(findings).length };
        } catch (error) {
          at(context).services.log.error({ err: error }, "the marks of a campaign are not known");
          return UNKNOWN;
        }
      });
  return { id: campaign.id, name: campaign.name, standing, variantOf };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, nameSchema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, now } = at(context);
  await renameCampaign(sql, params.campaign, submission.value.name, now);
  return submission.reply();
}

/** What the frame lends to its rooms. */
interface Frame {
  /** Where a room puts its own tools in the top bar. */
  readonly tools: HTMLElement | null;
  /** Takes what the checks find at this moment, and whether it is of another email than was loaded. */
  onFindings(findings: readonly Finding[] | null, changed: boolean): void;
}
export const useFrame = () => useOutletContext<Frame>();

/** The five rooms with their marks. */
function Rooms({
  id,
  variantOf,
  composing,
  standing: { marks, findings },
}: {
  id: string;
  variantOf: string | null;
  composing: boolean;
  standing: Standing;
}) {
  const rooms = ROOMS.filter(([room]) => variantOf === null || OF_VARIANT.has(room));
  return (
    <nav
      aria-label="Rooms"
      className="relative flex gap-1 max-md:order-last max-md:w-full max-md:overflow-x-auto"
    >
      {rooms.map(([room, path, label]) => (
        <NavLink
          key={room}
          to={`/campaigns/${id}${path}`}
          end
          className={({ isActive }) =>
            `flex items-center gap-1.5 rounded-md px-3 py-1.5 font-semibold ${isActive ? "bg-plum-soft text-plum" : "text-ink-2 hover:bg-bench"}`
          }
        >
          <Dot mark={marks[room]} />
          {label}
          <span className="sr-only">, {DOT_WORDS[marks[room]]}</span>
          {room === (composing ? "compose" : "proof") && findings > 0 && (
            <Chip tone="some">
              {findings}
              <span className="sr-only"> found by the checks</span>
            </Chip>
          )}
        </NavLink>
      ))}
      {variantOf && (
        <Link
          to={`/campaigns/${variantOf}/schedule`}
          className="flex items-center rounded-md px-3 py-1.5 font-semibold text-ink-2 hover:bg-bench"
        >
          To its A/B test
        </Link>
      )}
    </nav>
  );
}

/** What is found while one composes. */
interface Live {
  readonly findings: readonly Finding[];
  /** It is another email than was loaded. */
  readonly changed: boolean;
}

/** The rooms once their marks are known; `live` is what the checks find at this moment. */
function Known({
  loaded,
  live,
  ...rest
}: {
  id: string;
  variantOf: string | null;
  composing: boolean;
  loaded: Standing | Promise<Standing>;
  live: Live | null;
}) {
  const { marks, findings } = loaded instanceof Promise ? use(loaded) : loaded;
  // Of what has just been written nobody has looked at every version.
  const looked = marks.proof === "ready" && !live?.changed;
  const standing = live
    ? {
        marks: { ...marks, ...marksOf(live.findings, looked) },
        findings: asking(live.findings).length,
      }
    : { marks, findings };
  return <Rooms {...rest} standing={standing} />;
}

export default function CampaignFrame({ loaderData }: Route.ComponentProps) {
  const { id, name, standing, variantOf } = loaderData;
  const [renaming, setRenaming] = useState(false);
  const named = useCallback(() => setRenaming(false), []);
  const [live, setLive] = useState<Live | null>(null);
  const onFindings = useCallback(
    (findings: readonly Finding[] | null, changed: boolean) =>
      setLive(findings && { findings, changed }),
    [],
  );
  const { pathname } = useLocation();
  // While it is composed, what the checks find is newer than what was loaded with the page.
  const composing = pathname === `/campaigns/${id}`;
  const [tools, setTools] = useState<HTMLElement | null>(null);
  const frame = useMemo((): Frame => ({ tools, onFindings }), [tools, onFindings]);
  return (
    // The composer needs its width: in a smaller window, or a larger type, it scrolls as a whole.
    <div className="h-screen overflow-x-auto">
      <div className={`flex h-full flex-col ${composing ? "min-[561px]:min-w-[940px]" : ""}`}>
        <header className="grid min-h-12 flex-none grid-cols-[1fr_auto_1fr] items-center gap-4 border-b px-3.5 max-md:flex max-md:flex-wrap max-md:gap-x-4 max-md:gap-y-1 max-md:py-1.5">
          <div className="flex min-w-0 items-center gap-2.5">
            <Link to="/" aria-label="Septima, to the desk">
              <Wordmark />
            </Link>
            <span aria-hidden className="text-ink-3">
              /
            </span>
            <button
              type="button"
              title="Rename"
              onClick={() => setRenaming(true)}
              className="max-w-[220px] truncate rounded-md px-1 py-0.5 font-semibold hover:bg-bench"
            >
              {name}
            </button>
            {renaming && (
              <Suspense fallback={null}>
                <Rename id={id} name={name} onClose={named} />
              </Suspense>
            )}
          </div>
          <Suspense fallback={<Rooms {...{ id, variantOf, composing }} standing={UNKNOWN} />}>
            <Known
              id={id}
              variantOf={variantOf}
              composing={composing}
              loaded={standing}
              live={composing ? live : null}
            />
          </Suspense>
          <div ref={setTools} className="flex items-center justify-end gap-1.5" />
        </header>
        <div className="min-h-0 flex-1 overflow-auto">
          <Outlet context={frame} />
        </div>
      </div>
    </div>
  );
}
