/** Being in a list or in another segment, or not. */
import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { constantSql, fragment, type Sql } from "../fragment.ts";
import type { Condition, Rule } from "../rule.ts";
import type { Said } from "../said.ts";
import { gone, type Predicate, type Term } from "../term.ts";
import type { World } from "../world.ts";

const id = z.string().min(1, "Choose one.").max(80);
const listSchema = z.strictObject({ type: z.literal("list"), list: id, is: z.boolean() });
export type ListTest = z.infer<typeof listSchema>;
const segmentSchema = z.strictObject({ type: z.literal("segment"), segment: id, is: z.boolean() });
export type SegmentTest = z.infer<typeof segmentSchema>;

export const listTerm: Term<ListTest> = {
  type: "list",
  schema: listSchema,
  names: ({ list }) => [`list:${list}`],
  problem: ({ list }, world) =>
    world.names.has(`list:${list}`) ? null : "This rule names a list that is gone.",
  words({ list, is }, world) {
    const name = world.names.get(`list:${list}`);
    if (name === undefined) return gone("a list");
    return is ? `is on the list “${name}”` : `is not on the list “${name}”`;
  },
  compile({ list, is }, world) {
    if (!world.names.has(`list:${list}`)) return () => false;
    return (who) => who.lists.has(list) === is;
  },
  sql({ list, is }, world) {
    if (!world.names.has(`list:${list}`)) return constantSql("false");
    const those = fragment`c.id in (select m.contact_id from list_members m where m.list_id = ${list}::text)`;
    return is ? those : fragment`not ${those}`;
  },
};

/**
 * The world inside a segment: it does not know itself, so that circles come to an end. The same for all who ask
 * in the same world, so that what is made for it is made once, however many rules name the segment.
 */
const insides = new WeakMap<World, Map<string, World>>();
function inside(world: World, segment: string): World {
  const known = insides.get(world) ?? new Map<string, World>();
  insides.set(world, known);
  let found = known.get(segment);
  if (!found) {
    const segments = new Map(world.segments);
    segments.delete(segment);
    found = { ...world, segments };
    known.set(segment, found);
  }
  return found;
}

/** How rules are read; handed in, since rules hold segments and segments hold rules. */
interface Read {
  conditions(rule: Rule): readonly Condition[];
  compile(rule: Rule, world: World): Predicate;
  sql(rule: Rule, world: World): Sql;
  said(rule: Rule, world: World): Said | null;
}

/** Keeps what is made of a segment in a world: rules that name it again take the same. */
function once<T>(
  make: (rule: Rule, world: World) => T,
): (segment: string, world: World) => T | null {
  const known = new WeakMap<World, Map<string, T>>();
  return (segment, world) => {
    const rule = world.segments.get(segment);
    if (!rule) return null;
    const here = known.get(world) ?? new Map<string, T>();
    known.set(world, here);
    let made = here.get(segment);
    if (made === undefined) {
      made = make(rule, inside(world, segment));
      here.set(segment, made);
    }
    return made;
  };
}

export const segmentTerm = (read: Read): Term<SegmentTest> => {
  const compiled = once(read.compile);
  const written = once(read.sql);
  const said = once((rule, world) => ({ rule: read.said(rule, world) }));
  /** Conditions of a segment, those of segments in it taken in as often as they are named. */
  const weight = once((rule, world): number =>
    read
      .conditions(rule)
      .reduce((n, one) => n + (one.type === "segment" ? (weight(one.segment, world) ?? 1) : 1), 0),
  );
  const isTooMuch = (segment: string, world: World) =>
    (weight(segment, world) ?? 0) > LIMITS.ruleConditions;
  return {
    type: "segment",
    schema: segmentSchema,
    names: ({ segment }) => [`segment:${segment}`],
    problem: ({ segment }, world) =>
      !world.segments.has(segment)
        ? "This rule names a segment that is gone."
        : isTooMuch(segment, world)
          ? "The segment names others within others too often to be read."
          : null,
    words({ segment, is }, world) {
      const name = world.names.get(`segment:${segment}`);
      if (name === undefined) return gone("a segment");
      return is ? `is in the segment “${name}”` : `is not in the segment “${name}”`;
    },
    compile({ segment, is }, world) {
      const fits = compiled(segment, world);
      if (!fits) return () => false;
      return is ? fits : (who) => !fits(who);
    },
    sql({ segment, is }, world) {
      const those = isTooMuch(segment, world) ? null : written(segment, world);
      if (!those) return constantSql("false");
      return is ? those : fragment`not coalesce(${those}, false)`;
    },
    liquid({ segment, is }, world) {
      const found = said(segment, world);
      // One that is gone catches nobody, and nobody is outside of it.
      if (!found) return { any: [] };
      return found.rule === null || is ? found.rule : { none: [found.rule] };
    },
  };
};
