/** The final check before it is scheduled: what goes out, when, to whom, and what else they get. */
import { Link } from "react-router";
import {
  type DayLanguage,
  dayInWords,
  hoursOf,
  hourTime,
  type OwnTime,
  type Pace,
  type Quiet,
  spreadOf,
  type ZoneCount,
} from "#core/schedule/index.ts";
import { sizesOf } from "#core/splits/draw.ts";
import type { SplitPlan } from "#core/splits/plan.ts";
import { Look } from "../desk/look.tsx";
import { Later } from "../ui/later.tsx";
import { counted, dayAndTime, fileSize, lasting, readers } from "../ui/words.ts";
import type { ShownFile } from "./attachments.tsx";

/** Another campaign that is to leave. */
interface ShownClash {
  readonly campaign: string;
  readonly name: string;
  /** ISO date, and a time, where the campaign is at home. */
  readonly day: string;
  readonly time: string;
  readonly people: number;
}

/** To how many it would go, and what the checks and those who approve say. */
export interface Found {
  readonly readers: number;
  readonly stops: readonly string[];
  readonly looks: number;
}

/** What is known of a campaign that is about to be scheduled. */
export interface Looked {
  readonly id: string;
  readonly zone: string;
  readonly language: DayLanguage;
  /** Who it is from and what it is about; null where nothing can be scheduled. */
  readonly envelope: {
    readonly from: string;
    readonly address: string;
    readonly subject: string;
  } | null;
  /** Messages a second that usually go; null where nobody knows yet. */
  readonly rate: number | null;
  /** What else some of its readers get; null where that is not asked. */
  readonly clashes: Promise<readonly ShownClash[]> | null;
  /** In which zones its readers are; null where nothing says it. */
  readonly readerZones: Promise<readonly ZoneCount[]> | null;
  /** Where its picture is, as it goes out; null where there is none. */
  readonly look: string | null;
  /** Files that go with it. */
  readonly files: readonly ShownFile[];
  /** Hours in which nobody gets anything; null where there are none. */
  readonly quiet: Quiet | null;
  /** ms since 1970. */
  readonly now: number;
}

/** Who gets something else on the same day. */
function Clashes({ clashes, day }: { clashes: readonly ShownClash[]; day: string | null }) {
  return clashes
    .filter((one) => one.day === day)
    .map(({ campaign, name, time, people: both }) => (
      <li key={campaign} className="font-semibold text-saffron-ink">
        {readers(both)} {both === 1 ? "gets" : "get"}{" "}
        <Link className="link" to={`/campaigns/${campaign}/schedule`}>
          {name}
        </Link>{" "}
        on that day too, at {time}.
      </li>
    ));
}

/** Between which moments readers get it at their own clocks. */
function Spread({
  counts,
  own,
  loaded,
  zone,
}: {
  counts: readonly ZoneCount[];
  own: OwnTime;
  loaded: Looked;
  /** Of those without one. */
  zone: string;
}) {
  const spread = spreadOf(own, zone, counts, new Date(loaded.now));
  if (!spread) return null;
  const said = (at: Date) => dayAndTime(at, loaded.zone);
  return (
    <>
      <li>
        {spread.zones === 1
          ? "All of them are in one time zone."
          : `They are in ${spread.zones} time zones: it goes out from ${said(spread.first)} to ${said(spread.last)} (${loaded.zone}).`}
      </li>
      {spread.past > 0 && (
        <li>
          {readers(spread.past)} {spread.past === 1 ? "is" : "are"} where that time has passed, and{" "}
          {spread.past === 1 ? "gets" : "get"} it as soon as it starts.
        </li>
      )}
    </>
  );
}

/** Over which time it goes out. */
function Paced({
  loaded,
  count,
  pace,
  zone,
}: {
  loaded: Looked;
  count: number;
  pace: Pace;
  zone: string;
}) {
  const { own } = pace;
  const hours = hoursOf(count, pace);
  return (
    <>
      {own && loaded.readerZones && (
        <Later of={loaded.readerZones} until={null}>
          {(counts) => <Spread counts={counts} own={own} loaded={loaded} zone={zone} />}
        </Later>
      )}
      {hours > 0 && (
        <li>
          It goes in {hours + 1} waves, the last {hours === 1 ? "an hour" : `${hours} hours`} after
          the first.
        </li>
      )}
    </>
  );
}

/** What a test means for its readers. */
function Tried({ count, split }: { count: number; split: SplitPlan }) {
  const { each, variants, control, rest } = sizesOf(count, split);
  return (
    <>
      {variants > 1 && (
        <li>
          {readers(each)} get each of {variants} variants first;{" "}
          {split.hours === null
            ? `${readers(rest)} wait until somebody decides.`
            : `${readers(rest)} get the best of them ${split.hours === 1 ? "an hour" : `${split.hours} hours`} later${split.otherwise === "wait" ? ", if it is sure" : ""}.`}
        </li>
      )}
      {control > 0 && <li>{readers(control)} get nothing, to show what the email brings.</li>}
    </>
  );
}

/** How many get it; those who would get it as things are now. */
function Readers({ campaign, count }: { campaign: string; count: number | null }) {
  return (
    <p className="mt-3 mb-3">
      <span className="font-display text-display leading-none">
        {count?.toLocaleString("en-GB") ?? "…"}
      </span>
      <span className="mt-1 block text-small text-ink-2">
        {count === null && "Counting the readers…"}
        {count === 0 && (
          <>
            Nobody would get it:{" "}
            <Link className="link" to={`/campaigns/${campaign}/readers`}>
              choose its readers
            </Link>
          </>
        )}
        {count !== null &&
          count > 0 &&
          `${count === 1 ? "reader" : "readers"}, as things are now; those who leave until then get nothing.`}
      </span>
    </p>
  );
}

export function LastLook({
  loaded,
  found,
  when,
  day,
  time,
  zone,
  pace,
  split,
}: {
  loaded: Looked;
  /** null while it is being counted. */
  found: Found | null;
  when: "now" | "later";
  /** ISO date of the day it leaves; null where none is chosen. */
  day: string | null;
  time: string | null;
  zone: string | undefined;
  pace: Pace;
  split: SplitPlan;
}) {
  const count = found?.readers ?? null;
  const problems = found && found.stops.length + found.looks;
  return (
    <>
      <h2 className="text-title">Final check</h2>
      {loaded.look && (
        <Link
          to={`/campaigns/${loaded.id}/proof`}
          className="mt-2 block"
          aria-label="Look at it in the proof"
        >
          <Look src={loaded.look} scale={0.45} height={150} />
        </Link>
      )}
      <Readers campaign={loaded.id} count={count} />
      <ul className="divide-y border-y text-small text-ink-2 [&>li]:py-2">
        {loaded.envelope && (
          <>
            <li>
              {loaded.envelope.subject ? (
                <>
                  “<strong className="text-ink">{loaded.envelope.subject}</strong>”
                </>
              ) : (
                "No subject yet"
              )}
              , from {loaded.envelope.from} ({loaded.envelope.address})
            </li>
            <li>
              {when === "now"
                ? "It is sent now."
                : `It goes out on ${dayInWords(day ?? "", loaded.language) ?? "a day to be chosen"}, ${pace.best !== null ? "in the hour in which each reader reads" : pace.own ? `when clocks show ${time ?? "…"}` : `${time ?? "…"} (${zone ?? "…"})`}.`}
              {loaded.rate !== null && pace.perHour === null && count ? (
                <> Handing it over takes {lasting(count / loaded.rate)}.</>
              ) : null}
            </li>
          </>
        )}
        {loaded.files.length > 0 && (
          <li>
            With {counted(loaded.files.length, "file")},{" "}
            {fileSize(loaded.files.reduce((sum, { bytes }) => sum + bytes, 0))} for each reader.
          </li>
        )}
        {loaded.quiet && (
          <li>
            Nobody gets it between {hourTime(loaded.quiet.from)} and {hourTime(loaded.quiet.to)} at
            their own clock: what would go out then waits.
          </li>
        )}
        {count ? <Tried count={count} split={split} /> : null}
        {loaded.clashes && (
          <Later of={loaded.clashes} until={null}>
            {(clashes) => <Clashes clashes={clashes} day={day} />}
          </Later>
        )}
        <Paced loaded={loaded} count={count ?? 0} pace={pace} zone={zone ?? loaded.zone} />
        {found?.stops.map((stop) => (
          <li key={stop} className="font-semibold text-rust">
            {stop}
          </li>
        ))}
        <li>
          <Link className="link" to={`/campaigns/${loaded.id}/proof`}>
            {problems === null && "The checks look at it…"}
            {problems === 0 && "The checks found nothing"}
            {problems ? `${counted(problems, "finding")} to look at` : null}
          </Link>
        </li>
      </ul>
    </>
  );
}
