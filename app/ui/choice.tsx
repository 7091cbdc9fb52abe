import { INPUT } from "./field.tsx";

const SELECT = INPUT.replace("w-full", "w-auto max-w-64");

/** One of several, within a line of other controls; what was chosen and is gone is said to be gone. */
export function Choice({
  label,
  value,
  options,
  any,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly { id: string; name: string }[];
  /** What no choice means; left out where one has to be made. */
  any?: string;
  onChange: (value: string) => void;
}) {
  const known = value === "" || options.some(({ id }) => id === value);
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className={SELECT}
    >
      {any !== undefined && <option value="">{any}</option>}
      {!known && <option value={value}>(gone)</option>}
      {options.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}
