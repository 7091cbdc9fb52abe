/** Making the messages of a launch: merged, put together, signed. Runs where it is called. */
import type { Attachment } from "#core/mail/index.ts";
import {
  launchMessage,
  launchReader,
  type MailConfig,
  readyLaunch,
} from "../../campaigns/emails.ts";
import { type KeyFile, mailKeys } from "../../mail/keys.ts";
import { type Finished, finish } from "../../mail/message.ts";
import type { Claimed } from "../../store/launches/claim.ts";
import type { Launch } from "../../store/launches/freeze.ts";
import { createSigner } from "../../tracking/signer.ts";

/** What everything is signed with, and where it leads: plain values, so that a thread can be given them. */
export interface Secrets {
  readonly key: string;
  readonly mail: KeyFile;
  readonly config: MailConfig;
}

/** What messages of a launch are made of. */
export interface Making {
  /** As each of its variants is frozen, in their order. */
  readonly variants: readonly Parts[];
  readonly files: readonly Attachment[];
}
type Parts = Pick<
  Launch,
  "id" | "variant" | "campaignId" | "name" | "day" | "doc" | "surroundings" | "links" | "conditions"
>;

/** Whom a message is made for. */
export interface ToMake
  extends Pick<Claimed, "id" | "email" | "values" | "bits" | "variant" | "uncounted"> {
  /** The date that it bears. */
  readonly date: Date;
}

/** What makes a launch's messages; what is the same for all of them is done once. */
export function maker(
  { key, mail, config }: Secrets,
  { variants, files }: Making,
): (one: ToMake) => Finished {
  const signer = createSigner(key);
  const keys = mailKeys(mail);
  return (one) => {
    const launch = variants[one.variant]!;
    const token = signer.sign({ kind: "message", recipient: one.id });
    const reader = launchReader(readyLaunch(launch, signer), one, token);
    return finish(launchMessage(launch, one, reader, { config, signer }, one.date, files), keys);
  };
}

/** Only what a thread needs of a launch. */
export const partsOf = (launch: Parts): Parts => ({
  id: launch.id,
  variant: launch.variant,
  campaignId: launch.campaignId,
  name: launch.name,
  day: launch.day,
  doc: launch.doc,
  surroundings: launch.surroundings,
  links: launch.links,
  conditions: launch.conditions,
});
