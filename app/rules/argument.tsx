/** What a field is compared with, filled in: one control per shape an operator asks for. */
import type { Asks } from "#core/rules/index.ts";
import { Checkbox } from "../ui/checkbox.tsx";
import { DayInput } from "../ui/day-field.tsx";
import { INPUT } from "../ui/field.tsx";
import { finderOf } from "../ui/finder.ts";
import { NumberInput } from "../ui/number-input.tsx";
import { Select } from "../ui/select.tsx";
import type { Vocabulary } from "./vocabulary.ts";

interface Props {
  asks: Asks;
  label: string;
  field: Vocabulary["fields"][number];
  value: unknown;
  problem: string | null;
  onChange: (value: unknown) => void;
}

const shown = (value: unknown) => (value === null || value === undefined ? "" : String(value));
const MEDIUM = INPUT.replace("w-full", "w-44");

function SeveralWords({ label, field, value, problem, onChange }: Props) {
  const chosen = Array.isArray(value) ? (value as string[]) : [];
  if (field.options.length === 0) {
    return (
      <input
        aria-label={label}
        aria-invalid={problem ? true : undefined}
        placeholder="One, another, a third"
        defaultValue={chosen.join(", ")}
        onChange={(event) =>
          onChange(
            event.target.value
              .split(",")
              .map((one) => one.trim())
              .filter(Boolean),
          )
        }
        className={INPUT.replace("w-full", "w-72")}
      />
    );
  }
  return (
    <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
      <legend className="sr-only">{label}</legend>
      {field.options.map((option) => (
        <Checkbox
          key={option}
          label={option}
          checked={chosen.includes(option)}
          onChange={(event) =>
            onChange(
              event.target.checked ? [...chosen, option] : chosen.filter((one) => one !== option),
            )
          }
        />
      ))}
    </fieldset>
  );
}

function Near({ label, value, problem, onChange }: Props) {
  const near = value as { lat: number | null; lon: number | null; km: number | null; name: string };
  const set = (part: Partial<typeof near>) => onChange({ ...near, ...part });
  const number = (what: string, key: "km" | "lat" | "lon") => (
    <NumberInput
      label={`${label}: ${what}`}
      value={near[key]}
      invalid={problem !== null}
      onValue={(value) => set({ [key]: value })}
    />
  );
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      within {number("kilometres", "km")} km of {number("latitude", "lat")}
      {number("longitude", "lon")}
      <input
        aria-label={`${label}: what the place is called`}
        placeholder="called"
        value={near.name}
        onChange={(event) => set({ name: event.target.value })}
        className={MEDIUM}
      />
    </span>
  );
}

export function Argument(props: Props) {
  const { asks, label, field, value, problem, onChange } = props;
  const invalid = problem !== null;
  const wrong = invalid || undefined;
  const pair = Array.isArray(value) ? value : [null, null];
  const number = (label: string, value: unknown, onValue: (value: unknown) => void) => (
    <NumberInput label={label} value={value as number | null} invalid={invalid} onValue={onValue} />
  );
  const day = (label: string, value: unknown, onDay: (value: unknown) => void) => (
    <DayInput
      label={label}
      initial={shown(value)}
      aria-invalid={wrong}
      onDay={onDay}
      className="w-40"
    />
  );
  const two = (one: typeof number | typeof day) => (
    <span className="flex items-center gap-1.5">
      {one(`${label}, from`, pair[0], (v) => onChange([v, pair[1]]))}
      and
      {one(`${label}, to`, pair[1], (v) => onChange([pair[0], v]))}
    </span>
  );
  switch (asks) {
    case "nothing":
      return null;
    case "words":
      return field.options.length > 0 ? (
        <Select
          label={label}
          aria-invalid={wrong}
          value={shown(value)}
          options={field.options.map((one) => ({ value: one, label: one }))}
          onValue={onChange}
          className="w-44"
        />
      ) : (
        <input
          aria-label={label}
          aria-invalid={wrong}
          value={shown(value)}
          onChange={(event) => onChange(event.target.value)}
          className={MEDIUM}
        />
      );
    case "several words":
      return <SeveralWords {...props} />;
    case "number":
      return number(label, value, onChange);
    case "days":
      return (
        <span className="flex items-center gap-1.5">{number(label, value, onChange)} days</span>
      );
    case "two numbers":
      return two(number);
    case "date":
      return day(label, value, onChange);
    case "two dates":
      return two(day);
    case "near":
      return <Near {...props} />;
    case "record":
      return (
        <Select
          label={label}
          aria-invalid={wrong}
          value={shown(value)}
          options={[]}
          finder={finderOf("records", field.table ?? "")}
          onValue={(next) => onChange(next === "" ? null : Number(next))}
          className="w-44"
        />
      );
  }
}
