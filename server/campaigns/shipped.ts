/** Templates that ship are there from the first start on, each put in once. */
import { SHIPPED } from "#core/templates/index.ts";
import type { Database } from "../db/database.ts";
import { createTemplate, listTemplates } from "../store/campaigns.ts";
import { getSettings, saveSetting } from "../store/settings.ts";

/** Puts in those that were never put in. */
export async function shipTemplates({ sql, tx }: Database, now: Date): Promise<void> {
  const { shipped } = await getSettings(sql);
  const missing = SHIPPED.filter(({ key }) => !shipped.includes(key));
  if (missing.length === 0) return;
  // Installations from before this was noted have some by their names.
  const known = new Set((await listTemplates(sql)).map(({ name }) => name));
  await tx(async (own) => {
    for (const { name, about, make } of missing) {
      if (!known.has(name)) await createTemplate(own, { name, about, doc: make() }, now);
    }
    await saveSetting(own, "shipped", [...shipped, ...missing.map(({ key }) => key)]);
  });
}
