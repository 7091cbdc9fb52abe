/** What reviewers see: every version, as made-up readers get it. Nothing of any contact is in it. */
import type { EmailProps } from "#core/blocks/layout.ts";
import type { Family } from "#core/clients/index.ts";
import { madeUpValues } from "#core/fields/index.ts";
import { inEachLanguage, type Version, versionsOf } from "#core/versions/index.ts";
import { fixedOf } from "../audience/readers.ts";
import type { Counted } from "../campaigns/findings.ts";
import { type Look, lookerAt } from "../campaigns/sights.ts";
import { type WallPart, type WallVersion, wallOf } from "../campaigns/wall.ts";
import type { Services } from "../services.ts";
import type { Campaign } from "../store/campaigns.ts";
import { tagFields } from "../store/tag-values.ts";

/** A version, without the contact who is its sample. */
export type ReviewVersion = Omit<WallVersion, "sample">;

/** Where nobody gets it yet: nothing that hangs on a condition is shown. */
const anybodys = ({ doc }: Counted["stored"]): Version => ({
  key: "any",
  lang: (doc.root.props as unknown as EmailProps).lang,
  people: 0,
  sample: 0,
  bits: "",
});

/** The versions there are to look at, the most frequent first. */
export async function versionsToReview(
  services: Services,
  campaign: Campaign,
  email: Counted,
): Promise<{ versions: readonly ReviewVersion[]; parts: readonly WallPart[] }> {
  const { versions, parts } = await wallOf(services, campaign, email);
  const { key, lang, people } = anybodys(email.stored);
  const none = [{ key, lang, people, differs: [] }];
  return {
    versions: versions.length > 0 ? versions.map(({ sample: _, ...version }) => version) : none,
    parts,
  };
}

/** Gives how versions look to made-up readers in a family of mail programs, by their keys; null where there is none of that key. */
export function madeUpLooks(
  services: Services,
  campaign: Campaign,
  { stored, around, world, readers }: Counted,
  family: Family,
): (key: string) => Look | null {
  const groups = campaign.audience.include.length > 0 ? readers.groups : [];
  const all = versionsOf(inEachLanguage(stored.doc, around), groups);
  const versions = all.length > 0 ? all : [anybodys(stored)];
  const fixed = fixedOf({ doc: stored.doc, around, campaign }, world);
  const fields = tagFields(world);
  const token = services.signer.sign({ kind: "sample", campaign: campaign.id, contact: 0 });
  const marks = family.words === undefined;
  const look = lookerAt(services, { stored, around }, family, { marks });
  return (key) => {
    const at = versions.findIndex((one) => one.key === key);
    const version = versions[at];
    if (!version) return null;
    const values = { ...fixed, ...madeUpValues(fields, at) };
    return look({ values, bits: version.bits, token }, version.lang);
  };
}
