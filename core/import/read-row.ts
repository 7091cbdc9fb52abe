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
    }
  | { readonly refused: string };

export interface RowReader {
  /** The fields the values of a row are of, in their order. */
  readonly fields: readonly Field[];
  read(cells: readonly string[]): RowResult;
  /** Fields that will be new, with the choices that were met. */
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
  const reading: Reading = { dates: dates ?? "ymd", decimal, year, record };
  const keyAt = options.columns.findIndex(isKey);
  const readKey = KEYS[(options.columns[keyAt]?.to ?? "email") as KeyTarget];
  const met = new Map<string, Met>();
  const columns: { at: number; field: Field; kind: FieldKind; isNew: boolean }[] = [];
  for (const [at, target] of options.columns.entries()) {
    if (target.to === "field") {
      const field = known.get(target.field);
      if (field) columns.push({ at, field, kind: kindOf(field), isNew: false });
    } else if (target.to === "new") {
      const { field: id, label, type } = target;
      const field: Field = { id, label, type, options: [] };
      columns.push({ at, field, kind: kindOf(field), isNew: true });
      if (type === "choice" || type === "choices") met.set(id, { options: new Map(), field });
    }
  }
  const fields = columns.map(({ field }) => field);

  /** The choices of a new field are those that are met. */
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
      // The innermost loop of a large import: nothing is looked up in it that can be known before.
      for (let i = 0; i < columns.length; i++) {
        const { at, field, kind, isNew } = columns[i]!;
        const written = cells[at];
        if (written === undefined || written === "") {
          values[i] = null;
          continue;
        }
        const cell = bare(written);
        const parsed = kind.parse(cell, isNew ? meet(field, cell) : field, reading);
        if ("problem" in parsed) return { refused: `${field.label}: ${parsed.problem}` };
        values[i] = parsed.value;
      }
      return { key, values };
    },
    newFields: () =>
      columns.flatMap(({ field, isNew }) =>
        isNew ? [{ ...field, options: [...(met.get(field.id)?.options.values() ?? [])] }] : [],
      ),
  };
}
