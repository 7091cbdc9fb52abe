/** What of the library stands where. */
import type { Sql } from "../db/database.ts";
import { ON_ITS_WAY, UNSENT } from "./unsent.ts";

export interface Use {
  readonly kind: "campaign" | "template" | "saved" | "derived" | "settings";
  readonly id: string;
  readonly name: string;
  /** Its document; null where it has none. */
  readonly document: string | null;
  /** It stands as it is until its launch: it is scheduled, or on its way. */
  readonly fixed: boolean;
}

/**
 * Where an image stands, or what links to a file: emails that are not sent yet, templates, saved blocks, derived tags
 * and the pages for readers, by name. `id` is its content's name, which is found nowhere else.
 */
export const whereUsed = (sql: Sql, id: string): Promise<Use[]> => sql<Use>`
  select 'campaign' as kind, k.id, k.name, k.document_id as document,
      ${ON_ITS_WAY} as fixed
    from campaigns k join documents d on d.id = k.document_id
    where ${UNSENT} and position(${id} in d.body) > 0
  union all select 'template', t.id, t.name, t.document_id, false
    from templates t join documents d on d.id = t.document_id where position(${id} in d.body) > 0
  union all select 'saved', id, name, null, false from saved_blocks where position(${id} in body) > 0
  union all select 'derived', id, name, null, false from derived_tags where position(${id} in body::text) > 0
  union all select 'settings', key, 'Pages for readers', null, false from settings
    where key = 'pages' and value ->> 'logo' = ${id}
  order by 3, 2`;
