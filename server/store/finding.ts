/**
 * Things with names that one chooses from, however many there are: found by what is typed, or by id. A new kind is
 * one entry here.
 */

import { LIMITS } from "#core/limits.ts";
import { fragment, identifier, KEPT_SEGMENTS, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { tableSql } from "./fields.ts";
import { wordsFit } from "./search.ts";

export interface Found {
  readonly id: string;
  readonly name: string;
}

const SENT = fragment`exists (select 1 from launches l where l.campaign_id = k.id and l.state in ('sending', 'paused', 'done'))`;

const KEPT = jsonb(KEPT_SEGMENTS.map(({ id, name }) => ({ id, name })));
/** Those that are kept by the application are among them. */
const SEGMENTS = fragment`select id, name from segments union all
  select s ->> 'id', s ->> 'name' from jsonb_array_elements(${KEPT}) s`;

/** Rows of `id` and `name` to find among; `of` says in what they stand, where they stand in something. */
const KINDS = {
  lists: () => fragment`select id, name from lists`,
  segments: () => SEGMENTS,
  /** Lists and segments together. */
  sources: () => fragment`select 'list:' || id as id, name from lists
    union all select 'segment:' || id, name from (${SEGMENTS}) s`,
  /** Campaigns that readers have got. */
  campaigns: () =>
    fragment`select k.id, k.name from campaigns k where k.deleted_at is null and ${SENT}`,
  /** Links of a campaign's latest launch, by number from 1. */
  links: (of: string) => fragment`select n::text as id,
      coalesce(nullif(link ->> 'words', ''), 'Link ' || n) as name
    from (select links from launches l where l.campaign_id = ${of}
      and l.state in ('sending', 'paused', 'done') order by l.send_at desc limit 1) latest,
      jsonb_array_elements(latest.links) with ordinality e(link, n)`,
  products: () => fragment`select id, name from event_subjects where kind = 'bought'`,
  questions: () => fragment`select id, name from event_subjects where kind = 'answered'`,
  /** Categories of products (`bought`), answers to a question (its id) or to any (`answered`). */
  classes: (of: string) => fragment`select distinct class as id, class as name
    from event_subjects, jsonb_array_elements_text(classes) class where kind = ${of} or id = ${of}`,
  /** Files that links lead to, by their own names. */
  files: () => fragment`select id, name from files where deleted_at is null`,
  records: (of: string) =>
    fragment`select ${identifier("id")}::text as id, name from ${tableSql(of)}`,
} satisfies Record<string, (of: string) => SqlPiece>;

export type Findable = keyof typeof KINDS;
export const FINDABLE = Object.keys(KINDS) as Findable[];

/** Those whose names fit what is typed, by name. */
export const findNamed = (sql: Sql, what: Findable, typed: string, of: string): Promise<Found[]> =>
  sql<Found>`select id, name from (${KINDS[what](of)}) t
    where ${wordsFit(identifier("name"), typed)} order by name, id limit ${LIMITS.found}`;

/** What these ids name, in no order; those that name nothing are left out. */
export const namesOf = (
  sql: Sql,
  what: Findable,
  ids: readonly string[],
  of: string,
): Promise<Found[]> =>
  sql<Found>`select id, name from (${KINDS[what](of)}) t where id = any (${[...ids]}::text[])`;
