/** JSON files of people: an array of objects, or one object per line, read as they come. */
import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { Readable } from "node:stream";
import { TextDecoderStream } from "node:stream/web";
import { JSONParser } from "@streamparser/json";
import type { Shape } from "#core/import/index.ts";
import { isJsonObject } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { type FileRecord, ImportError } from "./file-record.ts";

const PIECE = 64 * 1024;

function cellOf(value: unknown, depth = 0): string {
  if (value === null || value === undefined) return "";
  if (depth > LIMITS.importDepth) throw new ImportError("The values of this file are too deep.");
  if (Array.isArray(value)) return value.map((one) => cellOf(one, depth + 1)).join("; ");
  if (isJsonObject(value)) {
    const { lat, lon, name } = value;
    if (typeof lat === "number") return `${name ?? ""} (${lat}, ${lon})`;
    return Object.entries(value)
      .map(([key, one]) => `${key}: ${cellOf(one, depth + 1)}`)
      .join("; ");
  }
  return String(value);
}

/** Values of an array, or of lines, as they are completed. */
function reader(array: boolean): { write(text: string): unknown[]; end(): unknown[] } {
  let ready: unknown[] = [];
  let left = "";
  const take = () => {
    const taken = ready;
    ready = [];
    return taken;
  };
  const line = (text: string) => {
    if (text.trim()) ready.push(JSON.parse(text));
  };
  if (!array) {
    return {
      write(text) {
        const lines = (left + text).split(/\r?\n/);
        left = lines.pop()!;
        if (left.length > LIMITS.importRecord) throw new Error("a line is too long");
        lines.forEach(line);
        return take();
      },
      end() {
        line(left);
        return take();
      },
    };
  }
  const parser = new JSONParser({ paths: ["$.*"], keepStack: false });
  let open = 0;
  parser.onValue = ({ value }) => {
    ready.push(value);
    open = 0;
  };
  parser.onError = (error) => {
    throw error;
  };
  return {
    write(text) {
      parser.write(text);
      open += text.length;
      if (open > LIMITS.importRecord) throw new Error("an entry is too long");
      return take();
    },
    end() {
      if (!parser.isEnded) throw new Error("it breaks off");
      return take();
    },
  };
}

/** Every value of a file. Throws an ImportError where it is no JSON. */
async function* jsonValues(file: string, shape: Shape): AsyncGenerator<unknown> {
  const bytes = Readable.toWeb(createReadStream(file, { highWaterMark: PIECE }));
  const text = Readable.fromWeb(
    bytes.pipeThrough(new TextDecoderStream(shape.encoding) as never) as never,
  );
  let values: ReturnType<typeof reader> | null = null;
  try {
    for await (const chunk of text) {
      // What stands first says which of the two it is.
      if (!values && String(chunk).trim() === "") continue;
      values ??= reader(String(chunk).trimStart().startsWith("["));
      yield* values.write(String(chunk));
    }
    if (values) yield* values.end();
  } catch (error) {
    if (error instanceof ImportError) throw error;
    throw new ImportError(`This is not JSON: ${(error as Error).message}.`);
  } finally {
    text.destroy();
  }
}

/** The records of a file; the first that it gives are the names of the columns, of what the first records have. */
export async function* jsonRecords(file: string, shape: Shape): AsyncGenerator<FileRecord> {
  if ((await stat(file)).size > LIMITS.importJsonBytes) {
    throw new ImportError(
      `A JSON file may have ${LIMITS.importJsonBytes / 1e6} MB. Use CSV for more.`,
    );
  }
  const names = new Set<string>();
  let looked = 0;
  for await (const value of jsonValues(file, shape)) {
    if (isJsonObject(value)) for (const name of Object.keys(value)) names.add(name);
    if (++looked >= LIMITS.importJsonNames || names.size > LIMITS.importColumns) break;
  }
  if (names.size === 0) throw new ImportError("There is nobody in this file.");
  const columns = [...names];
  yield { line: 0, cells: columns };
  let line = 0;
  for await (const value of jsonValues(file, shape)) {
    line++;
    if (!isJsonObject(value)) continue;
    const cells = columns.map((name) => cellOf(Object.hasOwn(value, name) ? value[name] : null));
    const strange = Object.keys(value).find((name) => !names.has(name));
    const refused = `it has “${strange}”, which none of the first ${LIMITS.importJsonNames} has`;
    yield strange === undefined ? { line, cells } : { line, cells, refused };
  }
}
