/** A kind of condition in a rule. Each stands in a file of its own under `terms/`. */
import type { z } from "zod";
import type { Sql } from "./fragment.ts";
import type { Said } from "./said.ts";
import type { Schema, Subject, World } from "./world.ts";

export type Predicate = (who: Subject) => boolean;

export interface Term<T extends { readonly type: string } = { readonly type: string }> {
  readonly type: T["type"];
  readonly schema: z.ZodType<T>;
  /** What it is about, as keys of `World.names`: what has to be there for its words, and for what it tests. */
  names?(term: T, schema: Schema): readonly string[];
  /** What is wrong with it against the world there is, or null. */
  problem(term: T, world: World): string | null;
  words(term: T, world: World): string;
  /** The condition as a predicate, made once for many contacts. */
  compile(term: T, world: World): Predicate;
  /** The same as SQL on the contacts table, named `c`; null counts as false. */
  sql(term: T, world: World): Sql;
  /** The same in standard Liquid; null, or left out, where it cannot be said. */
  liquid?(term: T, world: World): Said | null;
}

/** What a thing that is gone is called in words: nobody meets such a condition. */
export const gone = (what: string): string => `${what} that is gone (nobody)`;
