/** Sending again, with another subject, to those who did not open: a campaign of its own. */
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { didOnce, type Rule } from "#core/rules/index.ts";
import { line } from "#core/text/index.ts";
import type { Services } from "../services.ts";
import { copyAttachments } from "../store/attachments.ts";
import { addSegment, segmentWith } from "../store/audience.ts";
import { type Campaign, createCampaign } from "../store/campaigns.ts";
import { getLaunch } from "../store/launches/freeze.ts";
import { inVariant } from "../store/launches/variants.ts";

/** Those who were sent a campaign and have neither opened it nor clicked in it. */
export const unopened = (campaign: string): Rule => ({
  type: "all",
  rules: [
    { ...didOnce("sent"), campaign },
    { ...didOnce("opened"), campaign, times: { op: "atMost", count: 0 } },
  ],
});

const named = (words: string) => words.slice(0, LIMITS.nameLength);

function withSubject(doc: EmailDocument, subject: string): EmailDocument {
  const props = doc.root.props as unknown as EmailProps;
  const envelope = { ...props.envelope, subject: line(subject) };
  return { ...doc, root: { ...doc.root, props: { ...props, envelope } as never } };
}

/**
 * Makes a draft of what a campaign sent, with another subject, for those who have not opened it by the time it leaves;
 * gives its id, or null where it has not been sent.
 */
export async function sendAgain(
  { database, clock }: Services,
  campaign: Campaign,
  subject: string,
): Promise<string | null> {
  const launch = campaign.launchId ? await getLaunch(database.sql, campaign.launchId) : null;
  if (launch?.state !== "done") return null;
  const now = clock.now();
  const rule = unopened(campaign.id);
  return database.tx(async (sql) => {
    const segment =
      (await segmentWith(sql, rule)) ??
      (await addSegment(sql, named(`Did not open “${campaign.name}”`), rule, now));
    const audience = { include: [{ kind: "segment" as const, id: segment }], exclude: [] };
    const name = named(`${campaign.name}, again`);
    const email = withSubject(inVariant(launch, launch.winner ?? 0).doc, subject);
    // Who has left its topic is not to get it once more.
    const made = await createCampaign(sql, name, email, now, audience, campaign.topic);
    await copyAttachments(sql, campaign.id, made, now);
    return made;
  });
}
