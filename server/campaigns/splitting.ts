/** A campaign's A/B test before it is sent: planned, given content of its own, frozen; and decided by a person. */
import type { EmailDocument } from "#core/document/index.ts";
import { sameJson } from "#core/json.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import {
  emailOfVariant,
  isSplit,
  NO_SPLIT,
  type SplitPlan,
  sizesOf,
  type Variant,
  variantName,
} from "#core/splits/index.ts";
import { missingApprovals, missingWords } from "../reviews/deciding.ts";
import type { Services } from "../services.ts";
import { type Campaign, createVariant, getCampaign, setSplit } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { examine } from "./findings.ts";
import { ScheduleError } from "./schedule-error.ts";

/** The plan a campaign is scheduled with; null where everybody gets the same. Throws a ScheduleError. */
export function splitOf({ split }: Pick<Campaign, "split">, readers: number): SplitPlan | null {
  if (!split || !isSplit(split)) return null;
  const { each, rest } = sizesOf(readers, split);
  if (split.variants.length > 0 && each === 0) {
    throw new ScheduleError(
      `There are too few readers to try ${split.variants.length + 1} variants on ${split.share} % of them.`,
    );
  }
  if (split.variants.length === 0 && rest === 0) throw new ScheduleError("Nobody would get it.");
  return split;
}

interface ReadyVariant {
  readonly doc: EmailDocument;
  readonly surroundings: Surroundings;
}

/** The emails of the variants but the first, once each has been looked at. Throws a ScheduleError. */
export async function variantsOf(
  services: Services,
  campaign: Campaign,
  split: SplitPlan,
  main: EmailDocument,
): Promise<ReadyVariant[]> {
  const ready: ReadyVariant[] = [];
  for (const [i, variant] of split.variants.entries()) {
    const name = `Variant ${variantName(i + 1)}`;
    if (!variant.subject && !variant.preview && !variant.fromName && !variant.content) {
      throw new ScheduleError(`${name} is the same as A: write what is different, or take it out.`);
    }
    const of = variant.content === null ? campaign : await contentOf(services, campaign, variant);
    const examined =
      of &&
      (await examine(services, of, (doc) =>
        emailOfVariant(main, variant, variant.content ? doc : null),
      ));
    if (!examined) throw new ScheduleError(`The content of ${name.toLowerCase()} is gone.`);
    const { stored, around, findings } = examined;
    if (stored.trouble) throw new ScheduleError(`${name}: ${stored.trouble.reason}`);
    const stops = findings.filter(({ severity }) => severity === "stop");
    if (stops.length > 0) {
      throw new ScheduleError(`${name}: ${stops.map(({ message }) => message).join("; ")}.`);
    }
    if (variant.content) {
      const missing = await missingApprovals(services, of, examined);
      if (missing.length > 0) throw new ScheduleError(`${name}: ${missingWords(missing)}.`);
    }
    ready.push({ doc: stored.doc, surroundings: around });
  }
  return ready;
}

/** The campaign that holds the content of a variant; null where it is gone, or another's. */
async function contentOf(
  { database }: Services,
  campaign: Pick<Campaign, "id">,
  { content }: Variant,
): Promise<Campaign | null> {
  const found = content === null ? null : await getCampaign(database.sql, content);
  return found?.variantOf === campaign.id ? found : null;
}

const OUT = "It is on its way: what is tried cannot be changed any more.";

/**
 * Keeps how a campaign's email is to be tried. What it names as content must be its own; and where somebody else has
 * changed what it was made from (`was`), nothing of theirs is written over. Throws a ScheduleError.
 */
export async function planSplit(
  services: Services,
  campaign: Campaign,
  plan: SplitPlan,
  was: SplitPlan | null = null,
): Promise<void> {
  if (campaign.state !== "draft") throw new ScheduleError(OUT);
  const stands = campaign.split ?? NO_SPLIT;
  if (sameJson(stands, plan)) return;
  if (was !== null && !sameJson(stands, was)) {
    throw new ScheduleError(
      "Somebody else has changed the A/B test meanwhile: load the page anew.",
    );
  }
  for (const variant of plan.variants) {
    if (variant.content !== null && !(await contentOf(services, campaign, variant))) {
      throw new ScheduleError("The content of a variant is gone.");
    }
  }
  const { database, clock } = services;
  await setSplit(database.sql, campaign.id, plan, clock.now());
}

/** Gives a variant content of its own: a copy of the email, to be changed. Gives the campaign that holds it. Throws a ScheduleError. */
export async function giveContent(
  services: Services,
  campaign: Campaign,
  variant: number,
): Promise<string> {
  if (campaign.state !== "draft") throw new ScheduleError(OUT);
  const { database, clock } = services;
  const plan = campaign.split ?? NO_SPLIT;
  const one = plan.variants[variant - 1];
  if (!one) throw new ScheduleError("This variant is gone.");
  if (await contentOf(services, campaign, one)) return one.content!;
  const stored = await loadDocument(database.sql, campaign.documentId);
  if (!stored) throw new ScheduleError("The email of this campaign is gone.");
  const now = clock.now();
  const doc = emailOfVariant(stored.doc, one, null);
  return database.tx(async (sql) => {
    const name = `${campaign.name}, ${variantName(variant)}`;
    const content = await createVariant(sql, campaign, doc, name, now);
    // Its words are its own from now on, and written where its content is.
    const own = { subject: null, preview: null, fromName: null, content };
    const variants = plan.variants.map((each, i) => (i === variant - 1 ? own : each));
    await setSplit(sql, campaign.id, { ...plan, variants }, now);
    return content;
  });
}
