/** A comparison of a field: of the contact, or of a record it points to. */
import { z } from "zod";
import { kindOf } from "../../fields/index.ts";
import type { Json } from "../../json.ts";
import { constantSql, fragment, identifier, type Sql } from "../fragment.ts";
import type { NameOf, Operator } from "../operator.ts";
import { operatorOf } from "../operators/index.ts";
import { gone, type Term } from "../term.ts";
import { type Path, pathOf, type Subject, type World } from "../world.ts";

export type FieldTest = {
  readonly type: "field";
  /** A field's id, or the way to one through records: `site.manager.name`. */
  readonly field: string;
  readonly op: string;
  readonly argument: Json;
};

const schema = z
  .strictObject({
    type: z.literal("field"),
    field: z.string().min(1).max(200),
    op: z.string(),
    argument: z.json(),
  })
  .superRefine((test, ctx) => {
    const operator = operatorOf(test.op);
    if (!operator) {
      ctx.addIssue({ code: "custom", message: "There is no such comparison.", path: ["op"] });
      return;
    }
    const result = operator.argument.safeParse(test.argument);
    if (!result.success) {
      const message = result.error.issues[0]?.message ?? "This value does not fit.";
      ctx.addIssue({ code: "custom", message, path: ["argument"] });
    }
  });

/** The operator and field of a test, or null where either is gone or they do not go together. */
function partsOf(test: FieldTest, world: World): { path: Path; operator: Operator } | null {
  const path = pathOf(test.field, world);
  const operator = operatorOf(test.op);
  return path && operator?.types.includes(path.field.type) ? { path, operator } : null;
}

/** The column that is compared, of a contact or a record under an alias. Names are checked ids. */
export function keySql(path: Path, alias: string): Sql {
  const { field, steps } = path;
  if (steps.length === 0) {
    if (field.id === "email") return identifier(alias, "email_folded");
    if (field.id === "added") return identifier(alias, "added");
    if (field.id === "standing") {
      return fragment`coalesce(${identifier(alias, "held")}, ${constantSql("'can be mailed'")})`;
    }
  } else if (field.id === "name") return identifier(alias, "name_folded");
  return identifier(alias, `${kindOf(field).key ? "x" : "f"}_${field.id}`);
}

/** What a test of the last field of a path is, seen from the contact: records that pass are found once. */
function throughRecords(path: Path, test: (value: Sql) => Sql): Sql {
  const from = (i: number, alias: string): Sql => {
    const step = path.steps[i];
    if (!step) return test(keySql(path, alias));
    const inner = `r${i + 1}`;
    const pointer = identifier(alias, `f_${step.field.id}`);
    const records = identifier(`records_${step.table}`);
    return fragment`${pointer} in (select ${identifier(inner, "id")}
      from ${records} ${identifier(inner)} where ${from(i + 1, inner)})`;
  };
  return from(0, "c");
}

/** Reads the key at the end of a path in memory. */
function reader(path: Path): (who: Subject) => Subject["keys"][string] {
  const { id } = path.field;
  if (path.steps.length === 0) return (who) => who.keys[id];
  return (who) => {
    let keys: Subject["keys"] | null = who.keys;
    for (const step of path.steps) {
      const pointer: unknown = keys[step.field.id];
      keys = typeof pointer === "number" ? who.record(step.table, pointer) : null;
      if (!keys) return null;
    }
    return keys[id];
  };
}

export const fieldTerm: Term<FieldTest> = {
  type: "field",
  schema,
  names({ field, argument }, world) {
    const table = Number.isSafeInteger(argument) ? pathOf(field, world)?.field.table : undefined;
    return table ? [`record:${table}:${argument}`] : [];
  },
  problem(test, world) {
    const path = pathOf(test.field, world);
    if (!path) return "This rule names a field that is gone.";
    const operator = operatorOf(test.op);
    return operator?.types.includes(path.field.type)
      ? null
      : `“${operator?.label ?? test.op}” does not go with ${path.label}.`;
  },
  words(test, world) {
    const parts = partsOf(test, world);
    if (!parts) return gone("a field");
    const { path, operator } = parts;
    const nameOf: NameOf = (kind, id) => {
      const name = world.names.get(`${kind}:${path.field.table}:${id}`);
      return name === undefined ? gone("a record") : `“${name}”`;
    };
    return operator.words(path.label, test.argument, nameOf);
  },
  compile(test, world) {
    const parts = partsOf(test, world);
    if (!parts) return () => false;
    const { path, operator } = parts;
    const read = reader(path);
    if (operator.oppositeOf) {
      return (who) => {
        const value = read(who);
        return value === null || value === undefined;
      };
    }
    const fits = operator.compile(test.argument, world.now);
    if (path.steps.length === 0) {
      const { id } = path.field;
      return (who) => {
        const value = who.keys[id];
        return value !== null && value !== undefined && fits(value);
      };
    }
    return (who) => {
      const value = read(who);
      return value !== null && value !== undefined && fits(value);
    };
  },
  sql(test, world) {
    const parts = partsOf(test, world);
    if (!parts) return constantSql("false");
    const { path, operator } = parts;
    const opposite = operator.oppositeOf;
    const held = throughRecords(path, (value) =>
      (opposite ?? operator).sql(value, test.argument, world.now),
    );
    return opposite ? fragment`not coalesce(${held}, false)` : held;
  },
  liquid(test, world) {
    const parts = partsOf(test, world);
    if (!parts) return { any: [] };
    return parts.operator.liquid?.(`facts["${test.field}"]`, test.argument) ?? null;
  },
};
