/** Before it is scheduled: when it leaves, and the last look. */
import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { DateTime } from "luxon";
import { useState } from "react";
import { Link, useNavigation } from "react-router";
import {
  clockTimeOf,
  type DayLanguage,
  dayInWords,
  hoursOf,
  isoDayOf,
  type OwnTime,
  type Pace,
  readLocalTime,
  spreadOf,
  type ZoneCount,
} from "#core/schedule/index.ts";
import { Button } from "../ui/button.tsx";
import { DayField } from "../ui/day-field.tsx";
import { FormErrors, SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { dayAndTime, lasting, readers } from "../ui/words.ts";
import { ItemsFields } from "./items-fields.tsx";
import { paceOf, planSchema } from "./plan-schema.ts";

/** Another campaign that is to leave. */
interface ShownClash {
  readonly campaign: string;
  readonly name: string;
  /** ISO date, and a time, where the campaign is at home. */
  readonly day: string;
  readonly time: string;
  readonly people: number;
}

interface Loaded {
  readonly id: string;
  readonly readers: number;
  readonly stops: readonly string[];
  readonly looks: number;
  readonly tomorrow: string;
  /** It shows items of sources. */
  readonly showsItems: boolean;
  readonly zone: string;
  readonly zones: readonly string[];
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
  /** ms since 1970. */
  readonly now: number;
}
type Answer = SubmissionResult<string[]> | null | undefined;

/** A moment's distance from UTC, which tells the two of a night apart. */
const offset = (at: Date, zone: string) => DateTime.fromJSDate(at, { zone }).toFormat("'UTC'ZZ");

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
  loaded: Loaded;
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
function Paced({ loaded, pace, zone }: { loaded: Loaded; pace: Pace; zone: string }) {
  const { own } = pace;
  const hours = hoursOf(loaded.readers, pace);
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

export function Plan({ loaded, result }: { loaded: Loaded; result: Answer }) {
  const [when, setWhen] = useState<"now" | "later">("later");
  const [clocks, setClocks] = useState<"one" | "own">("one");
  const [form, fields] = useForm({
    lastResult: result ?? undefined,
    defaultValue: { date: loaded.tomorrow, time: "09:00", zone: loaded.zone },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: planSchema }),
    shouldRevalidate: "onInput",
  });
  const [sure, setSure] = useState(false);
  const busy = useNavigation().state !== "idle";
  const { zone } = form.value ?? {};
  const date = isoDayOf(form.value?.date ?? "");
  const time = clockTimeOf(form.value?.time ?? "");
  const local = date && time && zone ? readLocalTime(date, time, zone) : null;
  const nobody = loaded.readers === 0;
  const today = DateTime.fromMillis(loaded.now, { zone: loaded.zone }).toISODate();
  const perHour = Number(form.value?.perHour ?? "") || null;
  const pace = paceOf({ when, clocks, date: date ?? undefined, time: time ?? undefined, perHour });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-4">
      <FormErrors errors={form.errors} />
      <Segmented
        label="When"
        value={when}
        onChange={(value) => {
          setWhen(value);
          setSure(false);
        }}
        options={[
          { value: "now", label: "Now" },
          { value: "later", label: "At a time" },
        ]}
      />
      <input type="hidden" name="when" value={when} />
      {when === "later" && (
        <div className="grid grid-cols-[1fr_110px] gap-3">
          <DayField meta={fields.date} label="Day" />
          <TextField meta={fields.time} label="Time" inputMode="numeric" placeholder="09:00" />
          {loaded.readerZones && (
            <div className="col-span-2">
              <Segmented
                label="By whose clock"
                value={clocks}
                onChange={setClocks}
                options={[
                  { value: "one", label: "One time zone" },
                  { value: "own", label: "Each reader’s own" },
                ]}
              />
              <input type="hidden" name="clocks" value={clocks} />
            </div>
          )}
          <SelectField
            className="col-span-2"
            meta={fields.zone}
            label={clocks === "own" ? "Time zone of those without one" : "Time zone"}
            options={loaded.zones.map((zone) => ({
              value: zone,
              label: zone.replaceAll("_", " "),
            }))}
          />
          {local?.is === "twice" && (
            <SelectField
              className="col-span-2"
              meta={fields.turn}
              label="Clocks go back that night: which of the two?"
              options={[
                { value: "", label: "Choose one" },
                { value: "first", label: `The first, ${offset(local.first, zone!)}` },
                { value: "second", label: `The second, ${offset(local.second, zone!)}` },
              ]}
            />
          )}
        </div>
      )}
      <TextField
        meta={fields.perHour}
        label="At most so many an hour"
        inputMode="numeric"
        placeholder="all at once"
        hint="Waves are kind to a new sending domain, to a website and to a telephone."
      />
      {loaded.showsItems && <ItemsFields />}
      <div className="border-t pt-4">
        <h2 className="text-title">The last look</h2>
        <ul className="mt-1.5 text-ink-2">
          {loaded.envelope && (
            <>
              <li>
                “<strong className="text-ink">{loaded.envelope.subject}</strong>”, from{" "}
                {loaded.envelope.from} ({loaded.envelope.address})
              </li>
              <li>
                {when === "now"
                  ? "It leaves now."
                  : `It leaves on ${dayInWords(date ?? "", loaded.language) ?? "a day to be chosen"}, ${clocks === "own" ? `when clocks show ${time ?? "…"}` : `${time ?? "…"} (${zone ?? "…"})`}.`}
                {loaded.rate !== null && pace.perHour === null && !nobody && (
                  <> Handing it over takes {lasting(loaded.readers / loaded.rate)}.</>
                )}
              </li>
            </>
          )}
          <li>
            {nobody ? (
              <>
                Nobody would get it:{" "}
                <Link className="link" to={`/campaigns/${loaded.id}/readers`}>
                  choose its readers
                </Link>
              </>
            ) : (
              `${readers(loaded.readers)}, as things are now; those who leave until then get nothing.`
            )}
          </li>
          {loaded.clashes && (
            <Later of={loaded.clashes} until={null}>
              {(clashes) => <Clashes clashes={clashes} day={when === "now" ? today : date} />}
            </Later>
          )}
          <Paced loaded={loaded} pace={pace} zone={zone ?? loaded.zone} />
          {loaded.stops.map((stop) => (
            <li key={stop} className="font-semibold text-rust">
              {stop}
            </li>
          ))}
          <li>
            <Link className="link" to={`/campaigns/${loaded.id}/proof`}>
              {loaded.stops.length + loaded.looks === 0
                ? "The checks found nothing"
                : `The checks found ${loaded.stops.length + loaded.looks}`}
            </Link>
          </li>
        </ul>
      </div>
      {sure ? (
        // Its own key: the first button must not turn into this one under the same click.
        <div key="sure" className="flex items-center gap-2.5">
          <Button type="submit" primary disabled={busy}>
            {when === "now"
              ? `Yes, send to ${readers(loaded.readers)}`
              : `Yes, schedule for ${readers(loaded.readers)}`}
          </Button>
          <Button onClick={() => setSure(false)}>Not yet</Button>
        </div>
      ) : (
        <div key="ask">
          <Button primary onClick={() => setSure(true)}>
            {when === "now" ? "Send it now" : "Schedule it"}
          </Button>
        </div>
      )}
    </Form>
  );
}
