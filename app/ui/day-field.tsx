/** A day: written as people write it, or chosen from a calendar that begins the week as the language does. */
import type { FieldMetadata } from "@conform-to/react";
import clsx from "clsx";
import { CalendarDays } from "lucide-react";
import { lazy, Suspense, useRef, useState } from "react";
import { useRouteLoaderData } from "react-router";
import { type DayLanguage, dayInWords, isoDayOf, writtenDay } from "#core/schedule/day.ts";
import { IconButton } from "./button.tsx";
import { Field, INPUT } from "./field.tsx";
import { Popover } from "./popover.tsx";

const Calendar = lazy(() => import("./calendar.tsx"));

/** The language that the brand's days are written in. */
export const useDayLanguage = (): DayLanguage =>
  useRouteLoaderData<{ language?: DayLanguage }>("root")?.language ?? "en-GB";

/** Writes into a field as hands would, so that whoever listens to it hears. */
function write(field: HTMLInputElement, value: string): void {
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(field, value);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

interface InputProps {
  /** What it is called, where no label of a field does it; the calendar's name in any case. */
  label: string;
  id?: string;
  name?: string;
  /** The name under which a form sends the day as ISO has it. */
  isoName?: string;
  /** The day it begins with, and goes on with when it changes: ISO, or as it is written. */
  initial?: string;
  /** Hears the day as ISO has it, or what is written where it is none. */
  onDay?: (day: string) => void;
  autoFocus?: boolean;
  className?: string;
  "aria-label"?: string;
  "aria-describedby"?: string;
  "aria-invalid"?: true;
}

/** The field alone, for a line of other controls. */
export function DayInput({ label, initial = "", onDay, isoName, className, ...own }: InputProps) {
  const field = useRef<HTMLInputElement>(null);
  const language = useDayLanguage();
  const [open, setOpen] = useState(false);
  const [written, setWritten] = useState(writtenDay(initial));
  const [followed, setFollowed] = useState(initial);
  if (followed !== initial) {
    setFollowed(initial);
    // An undo, or another person; what is being written here stays.
    if ((isoDayOf(written) ?? written) === (isoDayOf(followed) ?? followed)) {
      setWritten(writtenDay(initial));
    }
  }
  return (
    <span className={clsx("relative inline-block", className ?? "w-full")}>
      <input
        {...own}
        aria-label={own["aria-label"] ?? (own.id ? undefined : label)}
        ref={field}
        inputMode="numeric"
        autoComplete="off"
        placeholder={language === "fr" ? "jj/mm/aaaa" : "dd/mm/yyyy"}
        value={written}
        onChange={(event) => {
          setWritten(event.target.value);
          onDay?.(isoDayOf(event.target.value) ?? event.target.value);
        }}
        className={`${INPUT} pr-9`}
      />
      {isoName && <input type="hidden" name={isoName} value={isoDayOf(written) ?? written} />}
      <Popover
        label={`${label}, chosen from a calendar`}
        open={open}
        onOpenChange={setOpen}
        align="end"
        trigger={
          <IconButton
            label={`Choose the ${label.toLowerCase()} from a calendar`}
            className="absolute top-0.5 right-0.5"
          >
            <CalendarDays />
          </IconButton>
        }
      >
        <Suspense fallback={<div className="h-72 w-64" />}>
          <Calendar
            language={language}
            day={isoDayOf(written)}
            onDay={(day) => {
              setOpen(false);
              if (field.current) write(field.current, writtenDay(day));
            }}
          />
        </Suspense>
      </Popover>
    </span>
  );
}

/** The field of a form. */
export function DayField({
  meta,
  label,
}: {
  meta: Pick<FieldMetadata<string>, "name" | "initialValue" | "errors" | "value">;
  label: string;
}) {
  const language = useDayLanguage();
  const value = meta.value ?? meta.initialValue ?? "";
  return (
    <Field label={label} hint={dayInWords(value, language)} errors={meta.errors}>
      {(ids) => (
        <DayInput
          {...ids}
          name={meta.name}
          label={label}
          initial={(meta.initialValue as string | undefined) ?? ""}
        />
      )}
    </Field>
  );
}
