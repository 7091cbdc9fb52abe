/** Templates that ship are there from the first start on, each put in once. */
import { type Scenes, SHIPPED } from "#core/templates/index.ts";
import type { Database } from "../db/database.ts";
import { getSettings, saveSetting } from "../store/settings.ts";
import { createTemplate, listTemplates } from "../store/templates.ts";

/** Puts in those that were never put in; with images where there are some. */
export async function shipTemplates(
  { sql, tx }: Database,
  now: Date,
  scenes: Scenes | null = null,
): Promise<void> {
  const { shipped } = await getSettings(sql);
  const missing = SHIPPED.filter(({ key }) => !shipped.includes(key));
  if (missing.length === 0) return;
  // Installations from before this was noted have some by their names.
  const known = new Set((await listTemplates(sql)).map(({ name }) => name));
  await tx(async (own) => {
    for (const [i, { name, about, category, make }] of missing.entries()) {
      if (known.has(name)) continue;
      // They stand in the order they are listed in.
      const at = new Date(now.getTime() + i);
      await createTemplate(own, { name, about, category, doc: make(scenes) }, at);
    }
    await saveSetting(own, "shipped", [...shipped, ...missing.map(({ key }) => key)]);
  });
}
