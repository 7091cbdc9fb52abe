/** What a rule can speak of, for whoever builds one: fields, lists, segments, campaigns, products, records. */
import type { FieldType } from "#core/fields/index.ts";
import { ADDED_FIELD, EMAIL_FIELD, STANDING_FIELD } from "#core/fields/index.ts";
import { KEPT_SEGMENTS } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { getLists, getSegments } from "../store/audience.ts";
import { getSchema } from "../store/fields.ts";
import { recordNames } from "../store/records.ts";
import { eventSubjects, sentCampaigns } from "../store/subjects.ts";
import { allPaths } from "../store/tag-values.ts";

interface Named {
  readonly id: string;
  readonly name: string;
}
export interface Vocabulary {
  readonly fields: readonly {
    readonly path: string;
    readonly label: string;
    readonly type: FieldType;
    readonly options: readonly string[];
    /** For pointers: the records there are. */
    readonly table: string | null;
  }[];
  readonly lists: readonly Named[];
  readonly segments: readonly Named[];
  /** Campaigns that went out, with what their links say, by number from 1. */
  readonly campaigns: readonly (Named & { readonly links: readonly string[] })[];
  readonly products: readonly (Named & { readonly classes: readonly string[] })[];
  readonly questions: readonly (Named & { readonly classes: readonly string[] })[];
  readonly records: { readonly [table: string]: readonly { id: number; name: string }[] };
}

export async function vocabularyOf(sql: Sql): Promise<Vocabulary> {
  const schema = await getSchema(sql);
  const paths = [
    ...allPaths(schema),
    ...[EMAIL_FIELD, ADDED_FIELD, STANDING_FIELD].map((field) => ({
      path: field.id,
      field,
      label: field.label,
    })),
  ];
  const subjects = await eventSubjects(sql);
  const sent = await sentCampaigns(sql);
  const records: Record<string, { id: number; name: string }[]> = {};
  for (const id of schema.tables.keys()) records[id] = await recordNames(sql, id);
  const named = ({ id, name }: Named) => ({ id, name });
  return {
    fields: paths.map(({ path, field, label }) => ({
      path,
      label,
      type: field.type,
      options: field.options ?? [],
      table: field.table ?? null,
    })),
    lists: (await getLists(sql)).map(named),
    segments: [...(await getSegments(sql)), ...KEPT_SEGMENTS].map(named),
    campaigns: sent
      .map(({ id, name, links }) => ({ id, name, links: (links ?? []).map(({ words }) => words) }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    products: subjects.filter(({ kind }) => kind === "bought"),
    questions: subjects.filter(({ kind }) => kind === "answered"),
    records,
  };
}
