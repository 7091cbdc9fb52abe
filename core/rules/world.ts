/** What a rule is read against: the fields there are, the other segments, the time, and names for its words. */
import {
  ADDED_FIELD,
  EMAIL_FIELD,
  type Field,
  type Fields,
  type Key,
  NAME_FIELD,
  type RecordTables,
  STANDING_FIELD,
} from "../fields/index.ts";
import { LIMITS } from "../limits.ts";
import type { Rule } from "./rule.ts";

/** When and where a rule is read. Days are those of the zone; "within the last days" counts back from today. */
export interface Now {
  /** ISO date in the zone. */
  readonly today: string;
  /** The moment itself. */
  readonly at: Date;
  /** The moment at which an ISO date begins in the zone. */
  startOf(date: string): Date;
}

/** The fields there are of contacts, and the tables of records. */
export interface Schema {
  readonly fields: Fields;
  readonly tables: RecordTables;
}

/** Contacts by their ids: those above `from`, up to `to`. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

export interface World extends Schema {
  /** The rules of segments by id. */
  readonly segments: ReadonlyMap<string, Rule>;
  readonly now: Now;
  /** What lists, segments, campaigns, products and records are called: `list:ID`, `record:TABLE:ID` … */
  readonly names: ReadonlyMap<string, string>;
  /** The contacts that rules are asked of, where those are not all: what others did need not be looked through. */
  readonly span?: Span;
  /** How many emails a contact gets at most since a moment; null or left out for any number. */
  readonly cap?: { readonly most: number; readonly since: Date } | null;
}

/** One thing that happened with a contact. */
export interface Activity {
  readonly did: string;
  /** Milliseconds since 1970. */
  readonly at: number;
  /** The sending it belongs to, and the campaign of that; null where it came of no email. */
  readonly launch: string | null;
  readonly campaign: string | null;
  /** The number of the link, where one was clicked. */
  readonly link: number | null;
  /** The product bought or the question answered, and its category or the answer given. */
  readonly item: string | null;
  readonly group: string | null;
}

type Keys = { readonly [field: string]: Key | null | undefined };

/** A contact as rules see it in memory. Keys are of its fields and of `email`, `added` and `standing`. */
export interface Subject {
  readonly keys: Keys;
  readonly lists: ReadonlySet<string>;
  readonly activity: readonly Activity[];
  /** The keys of a record; null where there is none. */
  record(table: string, id: number): Keys | null;
}

/** A field as a rule names it: its own, or one of a record it points to. */
export interface Path {
  readonly field: Field;
  /** The pointers on the way, outermost first, each with the table it leads to. */
  readonly steps: readonly { readonly field: Field; readonly table: string }[];
  readonly label: string;
}

const BUILT_IN = new Map(
  [EMAIL_FIELD, ADDED_FIELD, STANDING_FIELD].map((field) => [field.id, field]),
);

/** Finds a field by its path (`site.manager.name`), or null where any of it is gone. */
export function pathOf(path: string, world: Schema): Path | null {
  const ids = path.split(".");
  const steps: { field: Field; table: string }[] = [];
  const labels: string[] = [];
  let fields = world.fields;
  let outer = true;
  for (const [i, id] of ids.entries()) {
    const own = outer ? BUILT_IN.get(id) : id === NAME_FIELD.id ? NAME_FIELD : undefined;
    const field = own ?? fields.get(id);
    if (!field) return null;
    labels.push(field.label);
    if (i === ids.length - 1) return { field, steps, label: labels.join(" › ") };
    const table = field.type === "record" ? world.tables.get(field.table ?? "") : undefined;
    if (!table || steps.length === LIMITS.recordSteps) return null;
    steps.push({ field, table: table.id });
    fields = table.fields;
    outer = false;
  }
  return null;
}
