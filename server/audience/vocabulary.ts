/** What a rule can speak of, for whoever builds one. Things with names are found as they are chosen: `store/finding.ts`. */
import type { FieldType } from "#core/fields/index.ts";
import { ADDED_FIELD, EMAIL_FIELD, STANDING_FIELD } from "#core/fields/index.ts";
import type { Sql } from "../db/database.ts";
import { getSchema } from "../store/fields.ts";
import { allPaths } from "../store/tag-values.ts";

export interface Vocabulary {
  /** There is nothing but fields: it is about items, who are on no list and do nothing. */
  readonly only?: "fields";
  readonly fields: readonly {
    readonly path: string;
    readonly label: string;
    readonly type: FieldType;
    readonly options: readonly string[];
    /** For pointers: the table of records. */
    readonly table: string | null;
  }[];
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
  return {
    fields: paths.map(({ path, field, label }) => ({
      path,
      label,
      type: field.type,
      options: field.options ?? [],
      table: field.table ?? null,
    })),
  };
}
