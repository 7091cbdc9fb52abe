/** Campaigns whose emails differ from reader to reader, sent for tests. */
import { simpleParser } from "mailparser";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { DocNode } from "#core/document/index.ts";
import { line } from "#core/text/index.ts";
import { scheduleCampaign } from "../campaigns/scheduling.ts";
import { runLaunch } from "../jobs/sender.ts";
import type { Services } from "../services.ts";
import { createCampaign, getCampaign } from "../store/campaigns.ts";
import { messageSource, pageOfMessages } from "../store/outbox.ts";
import { smallCampaign } from "./newsletter.ts";

/** Readers of the campaign; those with even numbers have a first name. */
export const ADDRESSES = ["one@example.org", "two@example.org", "three@example.org"];
const ids = () => {
  let n = 0;
  return () => `p${++n}`;
};

/** A campaign with these blocks to everybody of `smallCampaign`. */
export async function campaignOf(
  services: Services,
  blocks: (id: () => string) => DocNode[],
  envelope: object = {},
  addresses: readonly string[] = ADDRESSES,
) {
  const { sql } = services.database;
  const made = await smallCampaign(services, addresses);
  const id = ids();
  const nodes = [...blocks(id), createBlock("footer", id)];
  const document = createDocument([createBand(id, [createColumn(id, nodes)])], {
    envelope: {
      fromName: line("Larkmoor"),
      fromAddress: "news@larkmoor.example",
      replyTo: "",
      subject: line("A letter"),
      preview: line(),
      ...envelope,
    },
  });
  const audience = made.campaign.audience;
  const campaign = await createCampaign(sql, "Personal", document, services.clock.now(), audience);
  return { ...made, campaign: (await getCampaign(sql, campaign))! };
}

/** Sends it, and gives what the outbox then has, by address. */
export async function sent(
  services: Services,
  { campaign, member }: Awaited<ReturnType<typeof campaignOf>>,
) {
  const { sql } = services.database;
  await scheduleCampaign(services, campaign, null, "Europe/London", member.id);
  const { launchId } = (await getCampaign(sql, campaign.id))!;
  await runLaunch(services, launchId!);
  const { messages } = await pageOfMessages(sql, "", 1);
  const found = await Promise.all(
    messages.map(async ({ id, to }) => {
      const parsed = await simpleParser((await messageSource(sql, id))!);
      return [to, parsed] as const;
    }),
  );
  return { launch: launchId!, messages: new Map(found) };
}
