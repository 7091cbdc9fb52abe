/** What a field is compared with, filled in: one control per shape an operator asks for. */
import type { Asks } from "#core/rules/index.ts";
import { INPUT } from "../ui/field.tsx";
import type { Vocabulary } from "./vocabulary.ts";

interface Props {
  asks: Asks;
  label: string;
  field: Vocabulary["fields"][number];
  records: Vocabulary["records"];
  value: unknown;
  problem: string | null;
  onChange: (value: unknown) => void;
}

const asNumber = (text: string): number | null =>
  text.trim() === "" || Number.isNaN(Number(text)) ? null : Number(text);
const shown = (value: unknown) => (value === null || value === undefined ? "" : String(value));
const NARROW = INPUT.replace("w-full", "w-24");
const MEDIUM = INPUT.replace("w-full", "w-44");

function NumberInput(props: {
  label: string;
  value: unknown;
  invalid: boolean;
  onChange: (value: number | null) => void;
}) {
  return (
    <input
      type="number"
      step="any"
      aria-label={props.label}
      aria-invalid={props.invalid || undefined}
      value={shown(props.value)}
      onChange={(event) => props.onChange(asNumber(event.target.value))}
      className={NARROW}
    />
  );
}

function DateInput(props: {
  label: string;
  value: unknown;
  invalid: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <input
      type="date"
      aria-label={props.label}
      aria-invalid={props.invalid || undefined}
      value={shown(props.value)}
      onChange={(event) => props.onChange(event.target.value)}
      className={MEDIUM}
    />
  );
}

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
        <label key={option} className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(option)}
            onChange={(event) =>
              onChange(
                event.target.checked ? [...chosen, option] : chosen.filter((one) => one !== option),
              )
            }
            className="accent-plum"
          />
          {option}
        </label>
      ))}
    </fieldset>
  );
}

function Near({ label, value, problem, onChange }: Props) {
  const near = value as { lat: number | null; lon: number | null; km: number | null; name: string };
  const set = (part: Partial<typeof near>) => onChange({ ...near, ...part });
  const invalid = problem !== null;
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      within
      <NumberInput
        label={`${label}: kilometres`}
        value={near.km}
        invalid={invalid}
        onChange={(km) => set({ km })}
      />
      km of
      <NumberInput
        label={`${label}: latitude`}
        value={near.lat}
        invalid={invalid}
        onChange={(lat) => set({ lat })}
      />
      <NumberInput
        label={`${label}: longitude`}
        value={near.lon}
        invalid={invalid}
        onChange={(lon) => set({ lon })}
      />
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
  const { asks, label, field, records, value, problem, onChange } = props;
  const invalid = problem !== null;
  const pair = Array.isArray(value) ? value : [null, null];
  switch (asks) {
    case "nothing":
      return null;
    case "words":
      return field.options.length > 0 ? (
        <select
          aria-label={label}
          aria-invalid={invalid || undefined}
          value={shown(value)}
          onChange={(event) => onChange(event.target.value)}
          className={MEDIUM}
        >
          <option value="">Choose…</option>
          {field.options.map((option) => (
            <option key={option}>{option}</option>
          ))}
        </select>
      ) : (
        <input
          aria-label={label}
          aria-invalid={invalid || undefined}
          value={shown(value)}
          onChange={(event) => onChange(event.target.value)}
          className={MEDIUM}
        />
      );
    case "several words":
      return <SeveralWords {...props} />;
    case "number":
      return <NumberInput label={label} value={value} invalid={invalid} onChange={onChange} />;
    case "days":
      return (
        <span className="flex items-center gap-1.5">
          <NumberInput label={label} value={value} invalid={invalid} onChange={onChange} />
          days
        </span>
      );
    case "two numbers":
      return (
        <span className="flex items-center gap-1.5">
          <NumberInput
            label={`${label}, from`}
            value={pair[0]}
            invalid={invalid}
            onChange={(v) => onChange([v, pair[1]])}
          />
          and
          <NumberInput
            label={`${label}, to`}
            value={pair[1]}
            invalid={invalid}
            onChange={(v) => onChange([pair[0], v])}
          />
        </span>
      );
    case "date":
      return <DateInput label={label} value={value} invalid={invalid} onChange={onChange} />;
    case "two dates":
      return (
        <span className="flex items-center gap-1.5">
          <DateInput
            label={`${label}, from`}
            value={pair[0]}
            invalid={invalid}
            onChange={(v) => onChange([v, pair[1]])}
          />
          and
          <DateInput
            label={`${label}, to`}
            value={pair[1]}
            invalid={invalid}
            onChange={(v) => onChange([pair[0], v])}
          />
        </span>
      );
    case "near":
      return <Near {...props} />;
    case "record":
      return (
        <select
          aria-label={label}
          aria-invalid={invalid || undefined}
          value={shown(value)}
          onChange={(event) => onChange(asNumber(event.target.value))}
          className={MEDIUM}
        >
          <option value="">Choose…</option>
          {(records[field.table ?? ""] ?? []).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      );
  }
}
