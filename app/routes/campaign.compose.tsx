import { useMemo } from "react";
import { type ShouldRevalidateFunctionArgs, useSearchParams } from "react-router";
import { choicesIn } from "#core/blocks/choices.ts";
import type { Asides } from "#core/kinds/kind.ts";
import { fixedValues, sampleCodes } from "#core/merge/index.ts";
import { conditionsOf } from "#core/render/index.ts";
import { whoSeesAtOnce, whoSeesOf, worldOfEmail } from "#server/audience/readers.ts";
import { chosenAnswer } from "#server/campaigns/chosen.ts";
import { surroundings } from "#server/campaigns/emails.ts";
import { bringCampaignUpToDate } from "#server/campaigns/linking.ts";
import { begunContext } from "#server/http/context.ts";
import type { CampaignState } from "#server/store/campaigns.ts";
import { stepContact } from "#server/store/contacts.ts";
import { loadDocument, undoState } from "#server/store/documents.ts";
import { fieldsByKind } from "#server/store/items.ts";
import { tagFields } from "#server/store/tag-values.ts";
import { liftsHolds } from "#server/store/team.ts";
import { ComposerView } from "../compose/composer.tsx";
import { firstContent } from "../compose/create.ts";
import { inspectionOf } from "../compose/inspecting/inspect.ts";
import { servedPage } from "../compose/sheets/written.ts";
import { pack, unpack } from "../pack.ts";
import { choiceOf } from "../reader-choice.ts";
import { examinedOf } from "../readiness.ts";
import { at, campaignOf, late } from "../request.ts";
import type { Route } from "./+types/campaign.compose.ts";
import { useFrame } from "./campaign.tsx";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

/** Why an email cannot be changed any more. */
const SENT: Partial<Record<CampaignState, string>> = {
  sending: "This email is being sent: it cannot be changed any more.",
  sent: "This email has been sent: it stays as it was sent.",
};

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services, sql, member, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  await bringCampaignUpToDate(services, campaign, member.id);
  const { seq, doc, trouble } = (await loadDocument(sql, campaign.documentId))!;
  const [around, contact, can, itemFields] = await Promise.all([
    surroundings(sql, services.config, doc, now, campaign.id),
    stepContact(sql, null, "next"),
    undoState(sql, campaign.documentId, member.id),
    fieldsByKind(sql),
  ]);
  const conditions = conditionsOf(doc, around.derived);
  const [world, chosen, reader] = await Promise.all([
    worldOfEmail(services, { doc, around, campaign }),
    chosenAnswer(services, campaign, {
      choices: choicesIn(doc),
      contact: contact?.id ?? null,
      spread: null,
    }),
    choiceOf(sql, contact),
  ]);
  const start = {
    campaign: campaign.id,
    person: member.id,
    holds: !liftsHolds(member),
    seq,
    trouble,
    sent: SENT[campaign.state] ?? null,
    can,
    brand: around.brand,
    publicAddress: services.config.publicAddress,
    pictures: [...around.pictures.values()],
    derived: [...(around.derived?.values() ?? [])],
    items: [...(around.items ?? [])],
    chosen,
    itemFields,
    rolls: [...(around.rolls?.values() ?? [])],
    fixedValues: {
      ...fixedValues(around.brand, campaign.name, world.now.today),
      ...sampleCodes(around.rolls?.values() ?? []),
    },
    fields: [...tagFields(world).values()],
    reader,
    whoSees: await whoSeesAtOnce(services, conditions, contact?.id ?? null, world),
  };
  // A page as a whole can show the email before its script is there; one that is led to here has that already.
  const served =
    request.headers.get("sec-fetch-dest") === "document"
      ? services.framePages.expect(() => servedPage(firstContent({ ...start, doc })))
      : null;
  if (served) context.get(begunContext).first(served.ready);
  return {
    ...start,
    doc: pack(doc),
    served: served?.name ?? null,
    // The email does not wait until its readers are counted and it is looked at, which the frame asks for too.
    counted: late(context, async () => {
      const { stored, around, readers, world, findings } = await examinedOf(context, campaign);
      return {
        whoSees: await whoSeesOf(services, readers, contact?.id ?? null, world),
        asides: {
          lastSubject: around.lastSubject,
          linkAnswers: around.linkAnswers,
          senderDomain: around.senderDomain,
        } satisfies Asides,
        inspection: stored.seq === seq ? inspectionOf(stored.doc, around, findings) : null,
      };
    }),
  };
}

/** The document lives in the browser from here on, and what is new comes by following; another campaign is read anew. */
export const shouldRevalidate = ({ currentParams, nextParams }: ShouldRevalidateFunctionArgs) =>
  currentParams.campaign !== nextParams.campaign;

export default function Compose({ loaderData }: Route.ComponentProps) {
  const [params] = useSearchParams();
  const { tools, onFindings } = useFrame();
  const doc = useMemo(() => unpack(loaderData.doc), [loaderData.doc]);
  return (
    <ComposerView
      key={loaderData.campaign}
      {...loaderData}
      doc={doc}
      selected={params.get("at")}
      field={params.get("in")}
      tools={tools}
      onFindings={onFindings}
    />
  );
}
