/** What a file looks like, and how it is probably read. */
import type { Fields } from "#core/fields/index.ts";
import {
  dateOrder,
  decimalMark,
  guessTargets,
  type ImportOptions,
  type KeyTarget,
  type Shape,
  sniffDelimiter,
  sniffEncoding,
  sniffHeader,
  type Target,
} from "#core/import/index.ts";
import { LIMITS } from "#core/limits.ts";
import { firstRecords, ImportError, sampleOf } from "./records.ts";

export interface Analysis {
  readonly shape: Shape;
  /** Of each column: its name and its first values. */
  readonly columns: readonly { readonly name: string; readonly samples: readonly string[] }[];
  readonly targets: readonly Target[];
  readonly dates: ImportOptions["dates"];
  readonly decimal: ImportOptions["decimal"];
}

/** The shape a file has as far as its beginning tells; what a person has set stays. */
async function shapeOf(file: string, name: string, set: Partial<Shape>): Promise<Shape> {
  const bytes = await sampleOf(file);
  const encoding = set.encoding ?? sniffEncoding(bytes);
  const text = new TextDecoder(encoding).decode(bytes).replace(/^\ufeff/, "");
  const looksJson = /^\s*[[{]/.test(text) && /\.(json|ndjson|jsonl)$/i.test(name);
  const format = set.format ?? (looksJson ? "json" : "csv");
  const delimiter = set.delimiter ?? sniffDelimiter(text);
  const shape: Shape = { format, encoding, delimiter, header: true };
  if (format === "json") return shape;
  const [first = []] = await firstRecords(file, shape);
  return { ...shape, header: set.header ?? sniffHeader(first) };
}

/** Looks at the beginning of a file. Throws an ImportError where nothing can be read. */
export async function analyse(
  file: string,
  name: string,
  fields: Fields,
  key: KeyTarget,
  set: Partial<Shape> = {},
): Promise<Analysis> {
  const shape = await shapeOf(file, name, set);
  const records = await firstRecords(file, shape);
  const header = shape.header ? records.shift() : undefined;
  const width = Math.max(header?.length ?? 0, ...records.map((record) => record.length));
  if (width === 0) throw new ImportError("There is nothing in this file.");
  if (width > LIMITS.importColumns) {
    throw new ImportError(
      `A file may have ${LIMITS.importColumns} columns; this one has ${width}.`,
    );
  }
  const names = Array.from({ length: width }, (_, i) => (header?.[i] ?? "").trim());
  const samples = names.map((_, i) => records.map((record) => record[i] ?? ""));
  const targets = guessTargets(names, samples, fields, key);
  const of = (type: string) =>
    samples.filter((_, i) => {
      const target = targets[i]!;
      if (target.to === "new") return target.type === type;
      return target.to === "field" && fields.get(target.field)?.type === type;
    });
  // Each column of dates by its own values; where they tell nothing, as the others are.
  const isDates = (target: Target) =>
    target.to === "new"
      ? target.type === "date"
      : target.to === "field" && fields.get(target.field)?.type === "date";
  const all = dateOrder(of("date"));
  const ordered = targets.map((target, i): Target => {
    const own = isDates(target) ? dateOrder([samples[i]!]) : null;
    return own && own !== all && (target.to === "field" || target.to === "new")
      ? { ...target, dates: own }
      : target;
  });
  return {
    shape,
    columns: names.map((column, i) => ({
      name: column || `Column ${i + 1}`,
      samples: samples[i]!.filter((value) => value.trim() !== "").slice(0, 3),
    })),
    targets: ordered,
    dates: all,
    decimal: decimalMark(of("number")),
  };
}
