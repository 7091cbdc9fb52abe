/** A day: written as people write it, or chosen from a calendar that begins the week as the language does. */
import type { FieldMetadata } from "@conform-to/react";
import { CalendarDays } from "lucide-react";
import { useRef, useState } from "react";
import { DayPicker } from "react-day-picker";
import { enGB, fr } from "react-day-picker/locale";
import "react-day-picker/style.css";
import { type DayLanguage, dayInWords, isoDayOf, writtenDay } from "#core/schedule/index.ts";
import { IconButton } from "./button.tsx";
import { Field, INPUT } from "./field.tsx";
import { Popover } from "./popover.tsx";

const LOCALES = { "en-GB": enGB, fr } as const;

/** The day of an ISO date at noon here: the calendar goes by the days of this clock. */
const dateOf = (iso: string | null) => (iso ? new Date(`${iso}T12:00:00`) : undefined);
const isoOf = (date: Date) =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, "0")}-${String(date.getDate()).padStart(2, "0")}`;

/** Writes into a field as hands would, so that whoever listens to it hears. */
function write(field: HTMLInputElement, value: string): void {
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(field, value);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

export function DayField({
  meta,
  label,
  language,
}: {
  meta: Pick<FieldMetadata<string>, "name" | "initialValue" | "errors" | "value">;
  label: string;
  language: DayLanguage;
}) {
  const field = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState(false);
  const value = meta.value ?? meta.initialValue ?? "";
  const chosen = isoDayOf(value);
  return (
    <Field label={label} hint={dayInWords(value, language)} errors={meta.errors}>
      {(ids) => (
        <div className="relative">
          <input
            {...ids}
            ref={field}
            name={meta.name}
            inputMode="numeric"
            autoComplete="off"
            placeholder={language === "fr" ? "jj/mm/aaaa" : "dd/mm/yyyy"}
            defaultValue={writtenDay((meta.initialValue as string | undefined) ?? "")}
            className={`${INPUT} pr-9`}
          />
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
            <DayPicker
              mode="single"
              autoFocus
              locale={LOCALES[language]}
              defaultMonth={dateOf(chosen)}
              selected={dateOf(chosen)}
              onSelect={(date) => {
                setOpen(false);
                if (date && field.current) write(field.current, writtenDay(isoOf(date)));
              }}
              className="calendar p-3"
            />
          </Popover>
        </div>
      )}
    </Field>
  );
}
