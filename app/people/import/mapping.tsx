/** How a file is read: its shape, where each column goes, and what is done with what it says. */
import { useState } from "react";
import { FIELD_TYPES, type Field, fieldIdFor, KIND_LIST } from "#core/fields/index.ts";
import { ENCODINGS, type ImportOptions, type KeyTarget, type Target } from "#core/import/index.ts";
import type { Analysis } from "#server/import/analyse.ts";
import { Button } from "../../ui/button.tsx";
import { FormErrors, INPUT } from "../../ui/field.tsx";
import { type Finder, finderOf } from "../../ui/finder.ts";
import { Form } from "../../ui/form.tsx";
import { Select } from "../../ui/select.tsx";

const DELIMITER_NAMES = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "bar" } as const;
/** What the column is called that says whom or what a row is about. */
export const KEY_LABELS: Readonly<Record<KeyTarget, string>> = {
  email: "Email address",
  name: "Name",
};
const DATE_NAMES = [
  { value: "dmy", label: "day, month, year" },
  { value: "mdy", label: "month, day, year" },
  { value: "ymd", label: "year, month, day only" },
] as const;
const LISTS = finderOf("lists");
const NEW_TYPES = FIELD_TYPES.filter((type) => type !== "record");

interface Props {
  analysis: Analysis;
  /** How it was read before, where it was. */
  options: ImportOptions | null;
  fields: readonly Field[];
  /** What rows are known by. */
  keyTarget: KeyTarget;
  problems: readonly string[];
  onShape: (shape: Partial<Analysis["shape"]>) => void;
}

const keyOf = (target: Target): string =>
  target.to === "field" ? `field:${target.field}` : target.to;

/** One thing that is said about the whole file. */
function Setting({
  label,
  value,
  options,
  finder,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  finder?: Finder;
  onChange: (value: string) => void;
}) {
  return (
    <div className="flex items-center gap-2 text-small">
      <span className="text-ink-2">{label}</span>
      <Select
        label={label}
        value={value}
        options={options.map(([value, label]) => ({ value, label }))}
        finder={finder}
        onValue={onChange}
        className="w-auto max-w-full"
      />
    </div>
  );
}

export function Mapping({ analysis, options, fields, keyTarget, problems, onShape }: Props) {
  const { shape, columns } = analysis;
  const fits = options?.columns.length === columns.length;
  const [targets, setTargets] = useState<readonly Target[]>(
    fits ? options.columns : analysis.targets,
  );
  const [rest, setRest] = useState({
    dates: (fits ? options.dates : analysis.dates) ?? "",
    decimal: options?.decimal ?? analysis.decimal,
    empty: options?.empty ?? "keep",
    known: options?.known ?? "change",
    refused: options?.refused ?? "without",
    cells: options?.cells ?? "refuse",
    choices: options?.choices ?? "refuse",
    list: options?.list ?? "",
  });
  const set = (key: keyof typeof rest) => (value: string) => setRest({ ...rest, [key]: value });
  const retarget = (i: number, value: string) => {
    const known = new Set([
      ...fields.map(({ id }) => id),
      ...targets.flatMap((t) => ("field" in t ? t.field : [])),
    ]);
    const name = columns[i]!.name;
    const target: Target =
      value === "new"
        ? { to: "new", field: fieldIdFor(name, (id) => known.has(id)), label: name, type: "text" }
        : value.startsWith("field:")
          ? { to: "field", field: value.slice(6) }
          : { to: value as "skip" | KeyTarget };
    setTargets(targets.map((one, j) => (i === j ? target : one)));
  };
  const typeOf = (target: Target) =>
    target.to === "new"
      ? target.type
      : target.to === "field"
        ? fields.find(({ id }) => id === target.field)?.type
        : undefined;
  const hasDates = targets.some((target) => typeOf(target) === "date");
  const made = {
    shape,
    columns: targets,
    ...rest,
    dates: hasDates ? rest.dates || null : null,
    list: rest.list || null,
  };
  // Whoever says it of every column need not say it of all of them.
  const asksDates =
    rest.dates === "" &&
    targets.some((target) => typeOf(target) === "date" && !("dates" in target && target.dates));
  return (
    <Form method="post" className="flex flex-col gap-5">
      <input type="hidden" name="options" value={JSON.stringify(made)} />
      <FormErrors errors={problems} />
      {shape.format === "csv" && (
        <div className="flex flex-wrap gap-5">
          <Setting
            label="Encoding"
            value={shape.encoding}
            options={ENCODINGS.map((one) => [one, one])}
            onChange={(encoding) => onShape({ encoding: encoding as never })}
          />
          <Setting
            label="Separator"
            value={shape.delimiter}
            options={Object.entries(DELIMITER_NAMES)}
            onChange={(delimiter) => onShape({ delimiter: delimiter as never })}
          />
          <Setting
            label="First row"
            value={shape.header ? "1" : ""}
            options={[
              ["1", "names the columns"],
              ["", keyTarget === "email" ? "is a person" : "is a record"],
            ]}
            onChange={(header) => onShape({ header: header === "1" })}
          />
        </div>
      )}
      <table className="w-full border-collapse text-left" aria-label="Columns of the file">
        <thead>
          <tr className="border-b text-small text-ink-2">
            <th scope="col" className="w-1/4 py-2">
              Column
            </th>
            <th scope="col" className="w-1/3 py-2">
              For instance
            </th>
            <th scope="col" className="py-2">
              Goes to
            </th>
          </tr>
        </thead>
        <tbody>
          {columns.map((column, i) => {
            const target = targets[i]!;
            return (
              <tr key={i} className="border-b align-top">
                <th scope="row" className="py-2 pr-3 font-semibold">
                  {column.name}
                </th>
                <td className="max-w-60 truncate py-2 pr-3 text-ink-2">
                  {column.samples.join(" · ") || "(empty)"}
                </td>
                <td className="py-1.5">
                  <span className="flex flex-wrap gap-2">
                    <Select
                      label={`Where ${column.name} goes`}
                      value={keyOf(target)}
                      options={[
                        { value: "skip", label: "Leave it out" },
                        { value: keyTarget, label: KEY_LABELS[keyTarget] },
                        ...fields.map(({ id, label }) => ({ value: `field:${id}`, label })),
                        { value: "new", label: "A new field…" },
                      ]}
                      onValue={(next) => retarget(i, next)}
                      className="w-44"
                    />
                    {target.to === "new" && (
                      <>
                        <input
                          aria-label={`What the new field of ${column.name} is called`}
                          value={target.label}
                          onChange={(event) =>
                            setTargets(
                              targets.map((one, j) =>
                                i === j ? { ...target, label: event.target.value } : one,
                              ),
                            )
                          }
                          className={INPUT.replace("w-full", "w-40")}
                        />
                        <Select
                          label={`The type of the new field of ${column.name}`}
                          value={target.type}
                          options={NEW_TYPES.map((type) => ({
                            value: type,
                            label: KIND_LIST.find((kind) => kind.type === type)!.label,
                          }))}
                          onValue={(type) =>
                            type &&
                            setTargets(
                              targets.map((one, j) => (i === j ? { ...target, type } : one)),
                            )
                          }
                          className="w-auto"
                        />
                      </>
                    )}
                    {typeOf(target) === "date" &&
                      (target.to === "field" || target.to === "new") && (
                        <Select
                          label={`How the dates of ${column.name} are written`}
                          value={target.dates ?? ""}
                          none="dates as below"
                          options={DATE_NAMES}
                          onValue={(dates) =>
                            setTargets(
                              targets.map((one, j) =>
                                i === j ? { ...target, dates: dates || undefined } : one,
                              ),
                            )
                          }
                          className="w-auto"
                        />
                      )}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div className="grid grid-cols-2 gap-x-8 gap-y-2.5">
        {hasDates && (
          <Setting
            label="Dates such as 3/4/2026 are"
            value={rest.dates}
            options={[
              ["", "choose: this file does not tell"],
              ["dmy", "day, month, year"],
              ["mdy", "month, day, year"],
              ["ymd", "year, month, day only"],
            ]}
            onChange={set("dates")}
          />
        )}
        <Setting
          label="Decimal mark"
          value={rest.decimal}
          options={[
            [".", "point: 1.5"],
            [",", "comma: 1,5"],
          ]}
          onChange={set("decimal")}
        />
        <Setting
          label={
            keyTarget === "email" ? "People who are here already" : "Records that are here already"
          }
          value={rest.known}
          options={[
            ["change", "get what the file says"],
            ["leave", "stay as they are"],
          ]}
          onChange={set("known")}
        />
        <Setting
          label="An empty cell"
          value={rest.empty}
          options={[
            ["keep", "keeps the value there is"],
            ["clear", "clears the value"],
          ]}
          onChange={set("empty")}
        />
        <Setting
          label="Refused rows"
          value={rest.refused}
          options={[
            ["without", "are left out"],
            ["nothing", "stop the whole import"],
          ]}
          onChange={set("refused")}
        />
        <Setting
          label="A cell that cannot be read"
          value={rest.cells}
          options={[
            ["refuse", "has its row refused"],
            ["leave", "is left out, and its row imported"],
          ]}
          onChange={set("cells")}
        />
        <Setting
          label="An unknown choice"
          value={rest.choices}
          options={[
            ["refuse", "is a cell that cannot be read"],
            ["add", "is added to the field"],
          ]}
          onChange={set("choices")}
        />
        {keyTarget === "email" && (
          <Setting
            label="Add everybody to"
            value={rest.list}
            options={[["", "no list"]]}
            finder={LISTS}
            onChange={set("list")}
          />
        )}
      </div>
      <div className="flex items-center gap-3">
        <Button type="submit" name="do" value="check" primary disabled={asksDates}>
          Preview the import
        </Button>
        <Button type="submit" name="do" value="throw">
          Discard the file
        </Button>
        {asksDates && (
          <span className="text-saffron-ink">
            Say first how the dates are written: this file can be read in two ways.
          </span>
        )}
      </div>
    </Form>
  );
}
