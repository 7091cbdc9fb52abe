/** A month of what has gone out and what is to; what has not left is moved to another day by drag or by its menu. */
import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import clsx from "clsx";
import { Link } from "react-router";
import { dayAndYear } from "#core/schedule/day.ts";
import { count } from "../ui/words.ts";

export interface Entry {
  readonly campaign: string;
  readonly name: string;
  readonly time: string;
  readonly state: "scheduled" | "sending" | "sent";
}
export interface MonthDay {
  readonly iso: string;
  readonly number: number;
  readonly within: boolean;
  readonly today: boolean;
  readonly past: boolean;
  readonly entries: readonly Entry[];
}
export interface Clash {
  readonly day: string;
  readonly campaigns: readonly [string, string];
  readonly people: number;
}

const WEEKDAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"];

function Thing({
  entry,
  clashes,
  onMove,
}: {
  entry: Entry;
  clashes: readonly Clash[];
  onMove: () => void;
}) {
  const movable = entry.state === "scheduled";
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: entry.campaign,
    disabled: !movable,
  });
  const people = Math.max(0, ...clashes.map((one) => one.people));
  return (
    <li
      ref={setNodeRef}
      {...listeners}
      data-entry={entry.name}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={clsx(
        "rounded-md border px-1.5 py-1 text-small leading-tight",
        entry.state === "sent" && "border-transparent bg-bench text-ink-2",
        entry.state === "sending" && "border-leaf bg-sheet",
        movable && "cursor-grab bg-plum-soft text-plum",
        movable && (people > 0 ? "border-saffron" : "border-transparent"),
        isDragging && "relative z-10 cursor-grabbing opacity-80",
      )}
    >
      <Link
        className="block font-semibold hover:underline"
        to={`/campaigns/${entry.campaign}/${entry.state === "sent" ? "results" : "schedule"}`}
      >
        {entry.name}
      </Link>
      <span className="flex flex-wrap items-center justify-between gap-x-2">
        {entry.time}
        {movable && (
          <button
            type="button"
            className="underline-offset-2 hover:underline"
            onPointerDown={(event) => event.stopPropagation()}
            onClick={onMove}
            aria-label={`Move ${entry.name} to another day`}
          >
            Move
          </button>
        )}
      </span>
      {people > 0 && (
        <span className="block font-semibold text-saffron-ink">{count(people)} get both</span>
      )}
    </li>
  );
}

function Day({
  day,
  clashes,
  onMove,
}: {
  day: MonthDay;
  clashes: readonly Clash[];
  onMove: (entry: Entry) => void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: day.iso, disabled: day.past });
  return (
    <td
      ref={setNodeRef}
      data-day={day.iso}
      className={clsx(
        "h-[86px] border p-1 align-top",
        day.within ? "bg-sheet" : "bg-paper",
        isOver && "outline-2 -outline-offset-2 outline-plum",
      )}
    >
      <span
        className={clsx(
          "mb-1 inline-block rounded-md px-1.5 text-small",
          day.today ? "bg-ink font-bold text-paper" : day.within ? "text-ink" : "text-ink-2",
        )}
      >
        <span aria-hidden>{day.number}</span>
        <span className="sr-only">
          {dayAndYear(day.iso)}
          {day.today && ", today"}
        </span>
      </span>
      <ul className="flex flex-col gap-1">
        {day.entries.map((entry) => (
          <Thing
            key={`${entry.campaign} ${entry.time}`}
            entry={entry}
            clashes={clashes.filter(({ campaigns }) => campaigns.includes(entry.campaign))}
            onMove={() => onMove(entry)}
          />
        ))}
      </ul>
    </td>
  );
}

/** A click is no drag. */
const NO_CLICK = { activationConstraint: { distance: 6 } };

export function Month({
  days,
  clashes,
  onMove,
  onAsk,
}: {
  days: readonly MonthDay[];
  clashes: readonly Clash[];
  onMove: (campaign: string, day: string) => void;
  /** Asks to which day. */
  onAsk: (entry: Entry) => void;
}) {
  const sensors = useSensors(useSensor(PointerSensor, NO_CLICK));
  const end = ({ active, over }: DragEndEvent) => {
    const from = days.find(({ entries }) => entries.some(({ campaign }) => campaign === active.id));
    if (over && over.id !== from?.iso) onMove(String(active.id), String(over.id));
  };
  const weeks = Array.from({ length: days.length / 7 }, (_, i) => days.slice(i * 7, i * 7 + 7));
  return (
    <DndContext sensors={sensors} onDragEnd={end}>
      <table className="w-full table-fixed border-collapse" aria-label="Calendar">
        <thead>
          <tr>
            {WEEKDAYS.map((name) => (
              <th key={name} scope="col" className="pb-1.5 text-small font-medium text-ink-2">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((week) => (
            <tr key={week[0]!.iso}>
              {week.map((day) => (
                <Day
                  key={day.iso}
                  day={day}
                  clashes={clashes.filter((one) => one.day === day.iso)}
                  onMove={onAsk}
                />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </DndContext>
  );
}
