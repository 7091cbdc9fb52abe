import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { csvCell } from "../export/csv.ts";
import { type Field, type Fields, kindOf, OWN_READING, readDate } from "../fields/index.ts";
import { FIELDS } from "../testing/arbitrary-rules.ts";
import { nastyText } from "../testing/arbitrary-texts.ts";
import {
  dateOrder,
  decimalMark,
  guessTargets,
  guessType,
  type ImportOptions,
  rowReader,
  sniffDelimiter,
  sniffEncoding,
  sniffHeader,
  type Target,
  targetsNow,
} from "./index.ts";

const fields: Fields = new Map(FIELDS.map((field) => [field.id, field]));
const bytes = (text: string) => new TextEncoder().encode(text);

describe("the beginning of a file", () => {
  it("has a header where more than half of its columns are named, each once and by no value", () => {
    expect(sniffHeader(["Name", "", "Town"])).toBe(true);
    expect(sniffHeader(["Name", "", "", ""])).toBe(false);
    expect(sniffHeader(["Name", ""])).toBe(false);
    expect(sniffHeader(["Name", "Name", "Town"])).toBe(false);
    expect(sniffHeader(["Name", "ada@example.org"])).toBe(false);
    expect(sniffHeader(["Name", "12.5"])).toBe(false);
    expect(sniffHeader([])).toBe(false);
  });

  it("tells the encoding", () => {
    expect(sniffEncoding(bytes("name;Éloïse"))).toBe("utf-8");
    expect(sniffEncoding(Uint8Array.from([0x45, 0x6c, 0x6f, 0xef, 0x73, 0x65]))).toBe(
      "windows-1252",
    );
    expect(sniffEncoding(Uint8Array.from([0xff, 0xfe, 0x41, 0]))).toBe("utf-16le");
    expect(sniffEncoding(new Uint8Array(Buffer.from("email,name\n", "utf16le")))).toBe("utf-16le");
    // A letter cut in two by the end of the sample is no other encoding.
    expect(sniffEncoding(bytes("aé").subarray(0, 2))).toBe("utf-8");
  });
  it("tells what stands between cells, also within quotes and decimal commas", () => {
    expect(sniffDelimiter("a;b;c\n1,5;2,5;3\n")).toBe(";");
    expect(sniffDelimiter('a,b\n"x;y;z",2\n"p\nq",3\n')).toBe(",");
    expect(sniffDelimiter("a\tb\n1\t2\n")).toBe("\t");
    expect(sniffDelimiter("email\nann@example.org\n")).toBe(",");
  });
  it("tells whether the first row names the columns", () => {
    expect(sniffHeader(["Email", "Name"])).toBe(true);
    expect(sniffHeader(["ann@example.org", "Ann"])).toBe(false);
    expect(sniffHeader(["Name", "Name"])).toBe(false);
    expect(sniffHeader(["Name", "2026-03-02"])).toBe(false);
  });
});

describe("columns", () => {
  it("go to fields of their name, to the address, or to new fields", () => {
    const names = ["Courriel", "NAME", "Since", "Shoe size", "Empty"];
    const samples = [
      ["ann@example.org", "bob@example.org"],
      ["Ann", "Bob"],
      ["2026-01-01", ""],
      ["41", "38,5"],
      ["", ""],
    ];
    expect(guessTargets(names, samples, fields)).toEqual([
      { to: "email" },
      { to: "field", field: "name" },
      { to: "field", field: "since" },
      { to: "new", field: "shoe_size", label: "Shoe size", type: "number" },
      { to: "skip" },
    ]);
  });
  it("are guessed by what is in them", () => {
    expect(guessType(["2026-01-02", "3.4.2026"])).toBe("date");
    expect(guessType(["yes", "No"])).toBe("yesNo");
    expect(guessType(["1 200", "-3.5"])).toBe("number");
    expect(guessType(["0171 234", "0301 99"])).toBe("text");
    expect(guessType(["https://larkmoor.example"])).toBe("web");
    expect(guessType(["Europe/Paris", "utc"])).toBe("zone");
    expect(guessType(Array.from({ length: 30 }, (_, i) => (i % 2 ? "Friend" : "Patron")))).toBe(
      "choice",
    );
  });
  it("are not guessed to be dates of one order where both would do", () => {
    expect(dateOrder([["3/4/2026", "1/2/2026"]])).toBeNull();
    expect(dateOrder([["3/4/2026", "31/2/2026"]])).toBe("dmy");
    expect(dateOrder([["3/14/2026"]])).toBe("mdy");
    expect(dateOrder([["31/1/2026", "1/31/2026"]])).toBeNull();
    expect(dateOrder([["2026-03-04"]])).toBe("ymd");
  });
  it("show their decimal mark", () => {
    expect(decimalMark([["1,5", "2"]])).toBe(",");
    expect(decimalMark([["1,500", "2.5"]])).toBe(".");
  });
});

const options = (columns: ImportOptions["columns"], more: Partial<ImportOptions> = {}) =>
  ({
    shape: { format: "csv", encoding: "utf-8", delimiter: ",", header: true },
    columns,
    dates: "dmy",
    decimal: ".",
    empty: "keep",
    known: "change",
    refused: "without",
    cells: "refuse",
    choices: "refuse",
    list: null,
    ...more,
  }) as ImportOptions;

it("takes phone numbers for words, and numbers with blanks for numbers", () => {
  expect(guessType(["+44 20 7946 0958", "+44 20 7946 0000"])).toBe("text");
  expect(guessType(["+442079460958"])).toBe("text");
  expect(guessType(["1 200 000", "3"])).toBe("number");
  expect(guessType(["20 79", "12 3456"])).toBe("text");
});

it("proposes no name that is taken by what everybody has", () => {
  const targets = guessTargets(
    ["Email", "Standing", "Added"],
    [["a@example.org"], ["x"], ["y"]],
    new Map(),
  );
  expect(targets.slice(1)).toMatchObject([{ field: "standing_2" }, { field: "added_2" }]);
});

it("lets columns go where they went, by the fields there are now", () => {
  const kept = { id: "kept", label: "Kept", type: "date" } as const;
  const fields = new Map([["kept", kept]]);
  const now = (chosen: Target, guess: Target = { to: "skip" }) =>
    targetsNow(
      [{ to: "email" }, { to: "field", field: "kept" }, chosen],
      [{ to: "email" }, { to: "skip" }, guess],
      new Map([...fields, ["shoes", { ...kept, id: "shoes" }]]),
    )[2];
  const asNew = { label: "Shoes", type: "date" } as const;
  expect(now({ to: "new", field: "shoes", ...asNew, dates: "mdy" })).toEqual({
    ...{ to: "field", field: "shoes", dates: "mdy" },
  });
  const other: Target = { to: "new", field: "hats", ...asNew };
  expect(now(other)).toBe(other);
  expect(now({ to: "skip" }, other)).toEqual({ to: "skip" });
  // A field that is gone.
  const gone: Target = { to: "field", field: "gone" };
  expect(now(gone, other)).toBe(other);
  expect(now(gone, { to: "field", field: "kept" })).toEqual({ to: "skip" });
  expect(now(gone)).toEqual({ to: "skip" });
});

it("reads a year of two digits as the nearest that is not far ahead", () => {
  const read = (text: string, year: number) => readDate(text, "dmy", year);
  expect(read("3.4.48", 2026)).toBe("1948-04-03");
  expect(read("3.4.46", 2026)).toBe("2046-04-03");
  expect(read("3.4.99", 2026)).toBe("1999-04-03");
  expect(read("3.4.02", 2095)).toBe("2002-04-03");
});

it("reads several choices of one cell back, whatever stands in them", () => {
  const field = {
    id: "x",
    label: "X",
    type: "choices" as const,
    options: ["Seeds; bulbs", 'The "big" one', "a|b", "plain"],
  };
  const kind = kindOf(field);
  for (const value of [["Seeds; bulbs", "plain"], ['The "big" one'], field.options]) {
    expect(kind.parse(kind.write(value as never, field), field, OWN_READING)).toEqual({ value });
  }
  expect(kind.parse("plain;a|b", { ...field, options: ["plain", "a", "b"] }, OWN_READING)).toEqual({
    value: ["plain", "a", "b"],
  });
});

describe("a row", () => {
  const reader = rowReader(
    options([
      { to: "email" },
      { to: "field", field: "since" },
      { to: "field", field: "count" },
      { to: "field", field: "site" },
      { to: "new", field: "shade", label: "Shade", type: "choice" },
    ]),
    fields,
    (table, name) => (table === "sites" && name === "Hill" ? 7 : null),
    2026,
  );
  it("becomes values of the fields' types", () => {
    expect(reader.read(["Ann@Example.ORG", "3/4/2026", "1,200.5", "Hill", "Deep"])).toMatchObject({
      key: ["Ann@example.org", "Ann@example.org", "ann@example.org"],
      values: ["2026-04-03", 1200.5, 7, "Deep"],
    });
    expect(reader.read(["b@example.org"])).toMatchObject({ values: [null, null, null, null] });
    expect(reader.newFields()).toMatchObject([{ id: "shade", options: ["Deep"] }]);
  });
  it("is refused with a reason that names the field and what was written", () => {
    const reason = (...cells: string[]) => (reader.read(cells) as { refused: string }).refused;
    expect(reason("")).toBe("no mail address");
    expect(reason("ann at example.org")).toContain("“ann at example.org” is not a mail address");
    expect(reason("a@example.org", "31/2/2026")).toBe("Since: “31/2/2026” is not a date");
    expect(reason("a@example.org", "", "1,5")).toContain("Count");
    expect(reason("a@example.org", "", "", "Nowhere")).toContain("no record called “Nowhere”");
    expect(reason("a@example.org\r\nBcc: b@example.org")).toContain("not a mail address");
  });
});

describe("values written and read again", () => {
  const arbitraries: [Field, fc.Arbitrary<unknown>][] = [
    [fields.get("name")!, nastyText],
    [fields.get("count")!, fc.double({ noNaN: true, noDefaultInfinity: true })],
    [
      fields.get("since")!,
      fc
        .integer({ min: 0, max: 20_000 })
        .map((n) => new Date(n * 86_400_000).toISOString().slice(0, 10)),
    ],
    [fields.get("donor")!, fc.boolean()],
    [fields.get("kind")!, fc.constantFrom("Friend", "Patron", "Élu")],
    [fields.get("likes")!, fc.subarray(["Seeds", "Walks", "Thé"])],
    [fields.get("page")!, fc.webUrl({ withQueryParameters: true })],
    [
      fields.get("home")!,
      fc.record({
        lat: fc.integer({ min: -90_000, max: 90_000 }).map((n) => n / 1_000),
        lon: fc.integer({ min: -180_000, max: 180_000 }).map((n) => n / 1_000),
        name: nastyText,
      }),
    ],
  ];
  it.each(arbitraries.map(([field, any]) => [field.type, field, any] as const))(
    "are the same: %s, through a cell that is no formula",
    (_type, field, any) => {
      const reader = rowReader(
        options([{ to: "email" }, { to: "field", field: field.id }]),
        fields,
        () => null,
        2026,
      );
      fc.assert(
        fc.property(any, (value) => {
          const kept = kindOf(field).check(value, field);
          if (kept === null) return;
          const cell = csvCell(kindOf(field).write(kept, field));
          expect(cell).not.toMatch(/^[=@\t\r]/);
          const row = reader.read(["a@example.org", cell]);
          expect(row).toMatchObject({ values: [kept] });
        }),
      );
    },
  );
});
