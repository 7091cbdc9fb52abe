import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import { openTestDatabase } from "../testing/database.ts";
import type { Database } from "./database.ts";
import { jsonb } from "./values.ts";

let database: Database;
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());

const back = async (value: unknown): Promise<unknown> => {
  const [row] = await database.sql<{ kept: unknown }>`select ${jsonb(value)} as kept`;
  return row!.kept;
};

it("text is kept but for NUL, alone and in arrays", async () => {
  const [row] = await database.sql`
    select ${"a\0b"}::text as one, ${["\0", "c"]}::text[] as many, ${"\\u0000"}::text as escaped`;
  expect(row).toEqual({ one: "ab", many: ["", "c"], escaped: "\\u0000" });
});

it("JSON is kept whole but for what jsonb refuses", async () => {
  expect(await back({ said: "a\0b", half: "x\ud83d", more: [1, "\udc00y", null] })).toEqual({
    said: "ab",
    half: "x\ufffd",
    more: [1, "\ufffdy", null],
  });
  expect(await back({ "a\0": { "b\udc00": 1 } })).toEqual({ a: { "b\ufffd": 1 } });
  // Text that only looks like an escape, and what is no text.
  expect(await back("\\u0000 \\ud83d")).toBe("\\u0000 \\ud83d");
  expect(await back(null)).toBeNull();
  expect(await back(undefined)).toBeNull();
  const [row] = await database.sql`
    select ${jsonb(null)} is null as null_of_json, ${jsonb(undefined)} is null as none`;
  expect(row).toEqual({ null_of_json: false, none: true });
});

it("whatever the letters are, what comes back is what went in, mended", async () => {
  const mended = (text: string) => text.replaceAll("\0", "").toWellFormed();
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.string({ unit: "binary" }).map((text) => text),
        { maxLength: 6 },
      ),
      async (texts) => {
        const torn = texts.map((text) => text.slice(0, -1));
        expect(await back(torn)).toEqual(torn.map(mended));
      },
    ),
    { numRuns: 60, examples: [[["😀", "a\0😀", "\\ud83d"]]] },
  );
});
