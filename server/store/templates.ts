/** Templates: emails to start from. */
import type { EmailDocument } from "#core/document/index.ts";
import { fragment, identifier } from "#core/rules/index.ts";
import type { Category } from "#core/templates/categories.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { createDocumentRow } from "./documents.ts";
import { wordsFit } from "./search.ts";
import { ON_ITS_WAY, UNSENT } from "./unsent.ts";

export interface Template {
  readonly id: string;
  readonly name: string;
  readonly about: string;
  readonly category: string;
  readonly documentId: string;
  /** The last edit of its document. */
  readonly seq: number;
}

const TEMPLATES = fragment`select t.id, t.name, t.about, t.category, t.document_id as "documentId", d.seq
  from templates t join documents d on d.id = t.document_id`;

/** Which templates are asked for. Bare layouts stand apart: under their category, among what a member keeps, and in `all`. */
export interface TemplateFilter {
  readonly search?: string;
  readonly category?: Category | null;
  readonly keptBy?: string | null;
  readonly all?: boolean;
}

const fits = ({
  search = "",
  category = null,
  keptBy = null,
  all = false,
}: TemplateFilter) => fragment`
  ${wordsFit(identifier("t", "name"), search)}
  and case when ${category}::text is not null then t.category = ${category}
    else ${all || keptBy !== null} or t.category <> 'bare' end
  and (${keptBy}::text is null or exists (select 1 from template_favourites f
    where f.template_id = t.id and f.member_id = ${keptBy}))`;

/** In the order they came. */
export const listTemplates = (
  sql: Sql,
  {
    from = 0,
    limit = null,
    ...filter
  }: TemplateFilter & { from?: number; limit?: number | null } = {},
): Promise<Template[]> => sql<Template>`${TEMPLATES}
  where ${fits(filter)} order by t.created_at, t.id offset ${from} limit ${limit}::int`;

export const countTemplates = async (sql: Sql, filter: TemplateFilter = {}): Promise<number> =>
  first(await sql<{ n: number }>`select count(*)::int as n from templates t where ${fits(filter)}`)!
    .n;

/** How many there are of each category, and how many a member keeps. */
export async function templateCounts(
  sql: Sql,
  member: string,
): Promise<{ categories: Record<string, number>; kept: number }> {
  const rows = await sql<{ category: string; n: number; kept: number }>`
    select t.category, count(*)::int as n, count(f.member_id)::int as kept from templates t
    left join template_favourites f on f.template_id = t.id and f.member_id = ${member}
    group by t.category`;
  return {
    categories: Object.fromEntries(rows.map(({ category, n }) => [category, n])),
    kept: rows.reduce((sum, { kept }) => sum + kept, 0),
  };
}

/** Which of these templates a member keeps. */
export const keptAmong = async (
  sql: Sql,
  member: string,
  ids: readonly string[],
): Promise<Set<string>> =>
  new Set(
    (
      await sql<{ id: string }>`select template_id as id from template_favourites
        where member_id = ${member} and template_id = any (${[...ids]}::text[])`
    ).map(({ id }) => id),
  );

/** Keeps a template at hand, or no longer. False where there is none. */
export async function keepTemplate(
  sql: Sql,
  member: string,
  id: string,
  kept: boolean,
): Promise<boolean> {
  if (!(await getTemplate(sql, id))) return false;
  if (kept) {
    await sql`insert into template_favourites (member_id, template_id) values (${member}, ${id})
      on conflict do nothing`;
  } else {
    await sql`delete from template_favourites where member_id = ${member} and template_id = ${id}`;
  }
  return true;
}

export const getTemplate = async (sql: Sql, id: string): Promise<Template | null> =>
  first(await sql<Template>`${TEMPLATES} where t.id = ${id}`);

/** Says which template a campaign was started from, and in which state. */
export async function startedFrom(
  sql: Sql,
  campaign: string,
  template: string,
  seq: number,
): Promise<void> {
  await sql`update campaigns set template_id = ${template}, template_seq = ${seq} where id = ${campaign}`;
}

export interface StartedCampaign {
  readonly id: string;
  readonly name: string;
  readonly documentId: string;
  /** The state of its template that is in it. */
  readonly templateSeq: number;
  readonly seq: number;
  /** It stays as it is until its launch: it is scheduled, or on its way. */
  readonly fixed: boolean;
}

/** Which of the campaigns started from a template are asked for: some by their ids, or those that lack its latest states. */
interface StartedFilter {
  readonly ids?: readonly string[];
  readonly behind?: boolean;
  readonly limit?: number;
}

/** The campaigns started from a template that are not sent, by name; those that stay as they are come last. */
export const startedCampaigns = (
  sql: Sql,
  template: string,
  { ids, behind = false, limit }: StartedFilter = {},
): Promise<StartedCampaign[]> =>
  sql<StartedCampaign>`select k.id, k.name, k.document_id as "documentId", d.seq,
      coalesce(k.template_seq, 0) as "templateSeq", ${ON_ITS_WAY} as fixed
    from campaigns k join documents d on d.id = k.document_id
    where k.template_id = ${template} and ${UNSENT}
      and (${ids ? [...ids] : null}::text[] is null or k.id = any (${ids ? [...ids] : null}::text[]))
      and (not ${behind}::boolean or coalesce(k.template_seq, 0) < (select td.seq
        from templates t join documents td on td.id = t.document_id where t.id = ${template}))
    order by ${ON_ITS_WAY}, k.name, k.id limit ${limit ?? null}::int`;

/** Changes what a template is called; false where it is gone. */
export const renameTemplate = async (
  sql: Sql,
  id: string,
  { name, about, category }: { name: string; about: string; category: Category },
): Promise<boolean> =>
  (
    await sql`update templates set name = ${name}, about = ${about}, category = ${category}
      where id = ${id} returning 1`
  ).length > 0;

/** How many campaigns were started from each of these templates, deleted ones left out. */
export async function startedCounts(
  sql: Sql,
  ids: readonly string[],
): Promise<ReadonlyMap<string, number>> {
  const rows = await sql<{ id: string; n: number }>`
    select template_id as id, count(*)::int as n from campaigns
    where template_id = any (${[...ids]}::text[]) and deleted_at is null group by 1`;
  return new Map(rows.map(({ id, n }) => [id, n]));
}

export async function createTemplate(
  sql: Sql,
  template: { name: string; about: string; category: Category; doc: EmailDocument },
  now: Date,
): Promise<string> {
  const documentId = await createDocumentRow(sql, template.doc, now);
  const id = newId();
  await sql`insert into templates (id, name, about, category, document_id, created_at)
    values (${id}, ${template.name}, ${template.about}, ${template.category}, ${documentId}, ${now})`;
  return id;
}
