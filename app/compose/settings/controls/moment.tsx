import { useRef, useState } from "react";
import { valueAt } from "#core/document/index.ts";
import { ZONE_NAMES } from "#core/fields/types/zone.ts";
import { clockTimeOf, isoDayOf } from "#core/schedule/day.ts";
import { DayInput } from "../../../ui/day-field.tsx";
import { Field, INPUT } from "../../../ui/field.tsx";
import { Select } from "../../../ui/select.tsx";
import { useCommands } from "../../doing/commands.ts";
import type { Props } from "./control.ts";

/** A moment as people write it: the day and the time that clocks show in a zone. */
function writtenAs(iso: string | null, zone: string): { day: string; time: string } {
  if (!iso) return { day: "", time: "" };
  const parts = new Intl.DateTimeFormat("sv-SE", {
    timeZone: zone,
    dateStyle: "short",
    timeStyle: "short",
  }).format(new Date(iso));
  const [day = "", time = ""] = parts.split(" ");
  return { day, time };
}

interface Draft {
  readonly day: string;
  readonly time: string;
  readonly zone: string;
}
interface Stored {
  readonly iso: string | null;
  readonly zone: string;
}

/** What the fields show of a stored moment; where there is none, it will be in the zone of whoever makes it. */
function draftOf({ iso, zone }: Stored): Draft {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return { ...writtenAs(iso, zone), zone: iso === null ? own : zone };
}

/** Whether the fields say what is stored, however it is written. */
function says({ day, time, zone }: Draft, stored: Stored): boolean {
  const shown = draftOf(stored);
  return (
    (isoDayOf(day) ?? day) === shown.day &&
    (clockTimeOf(time) ?? time) === shown.time &&
    (stored.iso === null || zone === shown.zone)
  );
}

/** A day, a time and the zone they are in; the moment is set once all of them say one and the time is left. */
export function MomentControl({ node, control }: Props<"moment">) {
  const { edit } = useCommands();
  const iso = valueAt(node.props, control.path) as string | null;
  const stored = valueAt(node.props, control.zone) as string;
  const [draft, setDraft] = useState(() => draftOf({ iso, zone: stored }));
  const [followed, setFollowed] = useState({ iso, zone: stored });
  if (followed.iso !== iso || followed.zone !== stored) {
    setFollowed({ iso, zone: stored });
    // An undo, or another person; what is being written here stays.
    if (says(draft, followed)) setDraft(draftOf({ iso, zone: stored }));
  }
  const [leap, setLeap] = useState<string | null>(null);
  const turn = useRef(0);
  const time = clockTimeOf(draft.time);
  const problem =
    draft.time.trim() !== "" && time === null ? "A time is written like 18:00." : leap;

  /** Sets the moment that has been written, once it is whole; what is written meanwhile counts instead. */
  const set = async (next: Draft) => {
    const own = ++turn.current;
    const [day, at] = [isoDayOf(next.day), clockTimeOf(next.time)];
    setLeap(null);
    if (!day || !at) return;
    const { readLocalTime } = await import("#core/schedule/index.ts");
    const read = readLocalTime(day, at, next.zone);
    if (own !== turn.current || !read) return;
    if (read.is === "never") {
      setLeap(`Clocks go forward over it: ${read.before} or ${read.after}?`);
      return;
    }
    const moment = (read.is === "once" ? read.at : read.first).toISOString();
    if (moment === iso && next.zone === stored) return;
    edit({
      type: "group",
      edits: [
        { type: "set", node: node.id, path: [...control.path], value: moment },
        { type: "set", node: node.id, path: [...control.zone], value: next.zone },
      ],
    });
  };
  const change = (part: Partial<Draft>) => {
    turn.current++;
    const next = { ...draft, ...part };
    setDraft(next);
    return next;
  };
  return (
    <div className="grid grid-cols-2 gap-2.5">
      <Field label={`${control.label}: day`} className="col-span-2">
        {(ids) => (
          <DayInput
            {...ids}
            label={`${control.label}: day`}
            initial={draft.day}
            onDay={(day) => void set(change({ day }))}
          />
        )}
      </Field>
      <Field label="Time" errors={problem ? [problem] : null} hint={control.hint}>
        {(ids) => (
          <input
            {...ids}
            className={INPUT}
            inputMode="numeric"
            placeholder="18:00"
            value={draft.time}
            onChange={(event) => change({ time: event.target.value })}
            onBlur={() => void set(draft)}
            onKeyDown={(event) => {
              if (event.key === "Enter") void set(draft);
            }}
          />
        )}
      </Field>
      <Field label="Time zone">
        {(ids) => (
          <Select
            {...ids}
            value={draft.zone}
            options={ZONE_NAMES.map((zone) => ({ value: zone, label: zone.replaceAll("_", " ") }))}
            onValue={(zone) => void set(change({ zone }))}
          />
        )}
      </Field>
    </div>
  );
}
