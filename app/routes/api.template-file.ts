/** A template as a file, for another Septima. */
import { loadDocument } from "#server/store/documents.ts";
import { getTemplate } from "#server/store/templates.ts";
import { ownFile } from "../own-file.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.template-file.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const template = await getTemplate(sql, params.template);
  const stored = template && (await loadDocument(sql, template.documentId));
  if (!stored) return new Response("This template is gone.", { status: 404 });
  const { name, about, category } = template;
  return ownFile(services, { kind: "template", name, about, category, doc: stored.doc });
}
