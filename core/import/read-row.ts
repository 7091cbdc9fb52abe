/** One row of a file → a person or a record, or why it is refused. Made once for a whole file. */
import {
  type Field,
  type FieldKind,
  type Fields,
  fold,
  kindOf,
  LIKE_A_FORMULA,
  type Reading,
  readAddress,
  splitChoices,
} from "../fields/index.ts";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { type ImportOptions, isKey, type KeyTarget } from "./options.ts";

export type RowResult =
  | {
      /** A mail address (as written, its key, folded), or a name (as written, folded). */
      readonly key: readonly string[];
      readonly values: readonly (Json | null)[];
      /** What could not be read and was left out. */
      readonly left?: string;
    }
  | { readonly refused: string };

export interface RowReader {
  /** The fields the values of a row are of, in their order. */
  readonly fields: readonly Field[];
  read(cells: readonly string[]): RowResult;
  /** Fields that will be new, with the choices that were met; and those that get choices they did not have. */
  newFields(): Field[];
}

/** What a cell says of whom or what its row is about, or why it says nothing. */
const KEYS: Readonly<Record<KeyTarget, (cell: string) => readonly string[] | string>> = {
  email(cell) {
    const found = readAddress(cell);
    if (found) return [found.address, found.key, found.folded];
    const written = cell.trim().slice(0, 60);
    return written === "" ? "no mail address" : `“${written}” is not a mail address`;
  },
  name(cell) {
    const name = cell.trim();
    if (name === "") return "no name";
    if (name.length > LIMITS.nameLength) return `a name of over ${LIMITS.nameLength} characters`;
    return [name, fold(name)];
  },
};

/** Cells that a spreadsheet would take for a formula carry an apostrophe in our own files. */
const bare = (cell: string) =>
  cell.charCodeAt(0) === 39 && LIKE_A_FORMULA.test(cell) ? cell.slice(1) : cell;

/** The choices of a new field that were met so far, folded and as written, and the field with them. */
interface Met {
  /** How many the field had before. */
  readonly known: number;
  readonly options: Map<string, string>;
  field: Field;
}

export function rowReader(
  options: ImportOptions,
  known: Fields,
  record: Reading["record"],
  year: number,
): RowReader {
  const { dates, decimal } = options;
  const readingOf = (own: Reading["dates"] | undefined): Reading => ({
    dates: own ?? dates ?? "ymd",
    decimal,
    year,
    record,
  });
  const keyAt = options.columns.findIndex(isKey);
  const readKey = KEYS[(options.columns[keyAt]?.to ?? "email") as KeyTarget];
  const met = new Map<string, Met>();
  const columns: {
    at: number;
    field: Field;
    kind: FieldKind;
    reading: Reading;
    isNew: boolean;
    /** Its choices are those that are met. */
    meets: boolean;
  }[] = [];
  const chosen = ({ type }: Pick<Field, "type">) => type === "choice" || type === "choices";
  for (const [at, target] of options.columns.entries()) {
    if (target.to === "field") {
      const field = known.get(target.field);
      if (!field) continue;
      const meets = options.choices === "add" && chosen(field);
      const reading = readingOf(target.dates);
      columns.push({ at, field, kind: kindOf(field), reading, isNew: false, meets });
      if (meets) {
        const known = (field.options ?? []).map((one) => [fold(one), one] as const);
        met.set(field.id, { known: known.length, options: new Map(known), field });
      }
    } else if (target.to === "new") {
      const { field: id, label, type } = target;
      const field: Field = { id, label, type, options: [] };
      const reading = readingOf(target.dates);
      columns.push({ at, field, kind: kindOf(field), reading, isNew: true, meets: chosen(field) });
      if (chosen(field)) met.set(id, { known: 0, options: new Map(), field });
    }
  }
  const fields = columns.map(({ field }) => field);

  /** The choices of a new field are those that are met; to others they are added. */
  function meet(field: Field, cell: string): Field {
    const own = met.get(field.id);
    if (!own) return field;
    const { options } = own;
    const before = options.size;
    for (const one of field.type === "choices" ? splitChoices(cell) : [cell]) {
      const text = one.trim().slice(0, LIMITS.nameLength);
      if (text !== "" && options.size < LIMITS.fieldOptions && !options.has(fold(text))) {
        options.set(fold(text), text);
      }
    }
    // Most rows bring no new one: what is known of the choices holds from row to row.
    if (options.size > before) own.field = { ...field, options: [...options.values()] };
    return own.field;
  }

  return {
    fields,
    read(cells) {
      const key = readKey(bare(cells[keyAt] ?? ""));
      if (typeof key === "string") return { refused: key };
      const values = new Array<Json | null>(columns.length);
      let left: string | undefined;
      // The innermost loop of a large import: nothing is looked up in it that can be known before.
      for (let i = 0; i < columns.length; i++) {
        const { at, field, kind, reading, meets } = columns[i]!;
        const written = cells[at];
        if (written === undefined || written === "") {
          values[i] = null;
          continue;
        }
        const cell = bare(written);
        const parsed = kind.parse(cell, meets ? meet(field, cell) : field, reading);
        if ("problem" in parsed) {
          const what = `${field.label}: ${parsed.problem}`;
          if (options.cells !== "leave") return { refused: what };
          left = left === undefined ? what : `${left}; ${what}`;
          values[i] = null;
          continue;
        }
        values[i] = parsed.value;
      }
      return left === undefined ? { key, values } : { key, values, left };
    },
    newFields: () =>
      columns.flatMap(({ field, isNew }) => {
        const own = met.get(field.id);
        if (!isNew && !(own && own.options.size > own.known)) return [];
        return [{ ...field, options: [...(own?.options.values() ?? [])] }];
      }),
  };
}
