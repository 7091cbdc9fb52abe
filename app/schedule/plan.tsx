/** Before it is scheduled: when it leaves, what is tried first, and the last look. */
import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { DateTime } from "luxon";
import { useState } from "react";
import { useNavigation } from "react-router";
import { clockTimeOf, isoDayOf, readLocalTime } from "#core/schedule/index.ts";
import { Button } from "../ui/button.tsx";
import { DayField } from "../ui/day-field.tsx";
import { FormErrors, SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later, useKnown } from "../ui/later.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { readers } from "../ui/words.ts";
import { Attachments } from "./attachments.tsx";
import { HoursChart, type ShownHours } from "./hours-chart.tsx";
import { ItemsFields } from "./items-fields.tsx";
import { type Found, LastLook, type Looked } from "./last-look.tsx";
import { paceOf, planSchema } from "./plan-schema.ts";
import { SplitSection } from "./split.tsx";
import { type SplitData, useSplit } from "./use-split.ts";

interface Loaded extends Looked {
  /** To how many it would go, and what the checks say: it is counted when the page stands. */
  readonly found: Promise<Found> | null;
  readonly tomorrow: string;
  /** It shows items of sources. */
  readonly showsItems: boolean;
  readonly zones: readonly string[];
  readonly split: SplitData;
  /** In which hours its readers read. */
  readonly hours: Promise<ShownHours> | null;
}
type Answer = SubmissionResult<string[]> | null | undefined;

const OWN = { value: "own", label: "Each reader’s own" } as const;

/** A moment's distance from UTC, which tells the two of a night apart. */
const offset = (at: Date, zone: string) => DateTime.fromJSDate(at, { zone }).toFormat("'UTC'ZZ");

export function Plan({ loaded, result }: { loaded: Loaded; result: Answer }) {
  const [when, setWhen] = useState<"now" | "later">("later");
  const [clocks, setClocks] = useState<"one" | "own" | "best">("one");
  const split = useSplit(loaded.id, loaded.split);
  const { known: found, failed } = useKnown(loaded.found);
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
  const today = DateTime.fromMillis(loaded.now, { zone: loaded.zone }).toISODate();
  const perHour = Number(form.value?.perHour ?? "") || null;
  const pace = paceOf({ when, clocks, date: date ?? undefined, time: time ?? undefined, perHour });
  return (
    <div className="grid flex-1 grid-cols-[minmax(0,1fr)_330px] max-lg:grid-cols-1">
      <div className="flex max-w-[860px] flex-col gap-8 px-10 py-7 max-md:px-4">
        <Form method="post" {...getFormProps(form)} className="flex flex-col gap-4">
          <h1 className="text-display">When to send</h1>
          <FormErrors errors={form.errors} />
          <div className="flex flex-wrap items-start gap-x-4 gap-y-3">
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
            {when === "later" && (
              <>
                <Segmented
                  label="By whose clock"
                  value={clocks}
                  onChange={setClocks}
                  options={[
                    { value: "one", label: "One time zone" },
                    ...(loaded.readerZones ? [OWN] : []),
                    { value: "best", label: "When each reads" },
                  ]}
                />
                <input type="hidden" name="clocks" value={clocks} />
              </>
            )}
          </div>
          <input type="hidden" name="when" value={when} />
          <input type="hidden" name="split" value={split.written} />
          <input type="hidden" name="splitWas" value={split.was} />
          {when === "later" && (
            <div className="grid grid-cols-[1fr_110px_1fr] gap-3 max-md:grid-cols-[1fr_110px]">
              <DayField meta={fields.date} label="Day" />
              {clocks !== "best" && (
                <TextField
                  meta={fields.time}
                  label="Time"
                  inputMode="numeric"
                  placeholder="09:00"
                />
              )}
              <SelectField
                className={clocks === "best" ? "col-span-2 max-md:col-span-1" : "max-md:col-span-2"}
                meta={fields.zone}
                label={clocks === "one" ? "Time zone" : "Time zone of those without one"}
                options={loaded.zones.map((zone) => ({
                  value: zone,
                  label: zone.replaceAll("_", " "),
                }))}
              />
              {local?.is === "twice" && clocks !== "best" && (
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
          {when === "later" && clocks === "best" && loaded.hours && (
            <Later
              of={loaded.hours}
              until={<p className="text-ink-2">Looking at what they opened…</p>}
            >
              {(seen) => <HoursChart seen={seen} quiet={loaded.quiet} />}
            </Later>
          )}
          <TextField
            className="max-w-[420px]"
            meta={fields.perHour}
            label="At most per hour"
            inputMode="numeric"
            placeholder="all at once"
            hint="Waves spare a new sending domain, your website and your telephone."
          />
          {loaded.showsItems && <ItemsFields />}
        </Form>
        <SplitSection split={split} data={loaded.split} readers={found?.readers ?? null} />
        <Attachments campaign={loaded.id} files={loaded.files} />
      </div>
      <aside
        aria-label="Final check"
        className="flex flex-col gap-5 border-l px-5 py-7 max-lg:border-t max-lg:border-l-0 max-lg:px-10 max-md:px-4"
      >
        <div>
          <LastLook
            loaded={loaded}
            found={found}
            when={when}
            day={when === "now" ? today : date}
            time={time}
            zone={zone}
            pace={pace}
            split={split.plan}
          />
        </div>
        {sure ? (
          // Its own key: the first button must not turn into this one under the same click.
          <div key="sure" className="flex flex-col gap-2.5">
            {/* Nobody says yes to a number that is not known. */}
            <Button
              type="submit"
              form={form.id}
              primary
              disabled={busy || found === null}
              className="py-2.5"
            >
              {found === null
                ? "Counting the readers…"
                : `Yes, ${when === "now" ? "send to" : "schedule for"} ${readers(found.readers)}`}
            </Button>
            {failed && (
              <p role="alert" className="text-small text-rust">
                The readers could not be counted. Load the page again.
              </p>
            )}
            <Button onClick={() => setSure(false)}>Not yet</Button>
          </div>
        ) : (
          <Button key="ask" primary onClick={() => setSure(true)} className="py-2.5">
            {when === "now" ? "Send it now" : "Schedule it"}
          </Button>
        )}
      </aside>
    </div>
  );
}
