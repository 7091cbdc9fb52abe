/** What the page of a plan knows of its A/B test. */
import type { RouterContextProvider } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { NO_SPLIT } from "#core/splits/index.ts";
import { wordsOf } from "#core/text/index.ts";
import { type Campaign, getCampaign } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getSchema } from "#server/store/fields.ts";
import { usualShares } from "#server/store/results.ts";
import { tagFields } from "#server/store/tag-values.ts";
import { at } from "../request.ts";
import type { SplitData } from "./use-split.ts";

const subjectOf = ({ root }: EmailDocument) =>
  wordsOf((root.props as unknown as EmailProps).envelope.subject);

export async function splitDataOf(
  context: Readonly<RouterContextProvider>,
  campaign: Campaign,
  /** Its email; null where nothing can be planned any more. */
  doc: EmailDocument | null,
): Promise<SplitData> {
  const { sql } = at(context);
  const plan = campaign.split ?? NO_SPLIT;
  if (doc === null) return { plan, subject: "", fields: [], contents: {}, usual: null };
  const contents: Record<string, string> = {};
  for (const { content } of plan.variants) {
    const held = content === null ? null : await getCampaign(sql, content);
    const stored = held && (await loadDocument(sql, held.documentId));
    if (held && stored) contents[held.id] = subjectOf(stored.doc);
  }
  return {
    plan,
    subject: subjectOf(doc),
    fields: [...tagFields(await getSchema(sql)).values()],
    contents,
    usual: await usualShares(sql),
  };
}
