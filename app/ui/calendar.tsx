/** The calendar of a day field; loaded when it is opened. */
import { DayPicker } from "react-day-picker";
import { enGB, fr } from "react-day-picker/locale";
import "react-day-picker/style.css";
import type { DayLanguage } from "#core/schedule/day.ts";

const LOCALES = { "en-GB": enGB, fr } as const;

/** The day of an ISO date at noon here: the calendar goes by the days of this clock. */
const dateOf = (iso: string | null) => (iso ? new Date(`${iso}T12:00:00`) : undefined);
const isoOf = (date: Date) =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, "0")}-${String(date.getDate()).padStart(2, "0")}`;

export default function Calendar({
  language,
  day,
  onDay,
}: {
  language: DayLanguage;
  day: string | null;
  onDay: (iso: string) => void;
}) {
  return (
    <DayPicker
      mode="single"
      autoFocus
      locale={LOCALES[language]}
      defaultMonth={dateOf(day)}
      selected={dateOf(day)}
      onSelect={(date) => date && onDay(isoOf(date))}
      className="calendar p-3"
    />
  );
}
