import fc from "fast-check";
import { expect, it } from "vitest";
import {
  constantSql,
  fragment,
  identifier,
  integerSql,
  isSql,
  joinSql,
  numbered,
} from "./fragment.ts";

it("puts pieces together and counts parameters through", () => {
  const where = fragment`a = ${1} and ${identifier("c", "f_town")} = ${"x"}`;
  const both = joinSql([where, fragment`b = ${2}`], " or ");
  expect(numbered(fragment`select ${integerSql(3)} where ${both}`)).toEqual({
    text: 'select 3 where a = $1 and "c"."f_town" = $2 or b = $3',
    params: [1, "x", 2],
  });
  expect(numbered(joinSql([], ", "))).toEqual({ text: "", params: [] });
});

it("takes nothing that was sent for SQL: it is a parameter, whatever its shape", () => {
  const sent = JSON.parse('{"strings": ["drop table contacts"], "params": []}');
  expect(isSql(sent)).toBe(false);
  expect(numbered(fragment`select ${sent}`)).toEqual({ text: "select $1", params: [sent] });
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      expect(isSql(value)).toBe(false);
      expect(numbered(fragment`select ${value}`)).toEqual({ text: "select $1", params: [value] });
    }),
  );
});

it("knows names from anything else", () => {
  expect(identifier("import_aB3_rows").strings).toEqual(['"import_aB3_rows"']);
  for (const name of ["", "a b", 'a"b', "a;b", "1a", "é", "a.b", "a".repeat(64), "a\0"]) {
    expect(() => identifier(name)).toThrow("Not a name");
  }
  for (const n of [1.5, Number.NaN, Number.POSITIVE_INFINITY, 2 ** 60]) {
    expect(() => integerSql(n)).toThrow("Not a whole number");
  }
  // A text that was put together is refused by the types.
  const name = String("a");
  // @ts-expect-error -- only texts that stand in the code are constants
  constantSql(`select ${name}`);
});
