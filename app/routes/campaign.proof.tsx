import clsx from "clsx";
import { Download } from "lucide-react";
import { useRef } from "react";
import { createPortal } from "react-dom";
import { data, useNavigate, useSearchParams } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import { nameOf } from "#core/blocks/names.ts";
import { CHECKS } from "#core/checks/index.ts";
import { FAMILIES, familyOf } from "#core/clients/index.ts";
import { find } from "#core/document/index.ts";
import { languageOf } from "#core/languages/index.ts";
import { compile } from "#core/render/index.ts";
import { inEachLanguage, versionsOf } from "#core/versions/index.ts";
import { readerOf, worldOfEmail } from "#server/audience/readers.ts";
import { surroundings, testMessages } from "#server/campaigns/emails.ts";
import { groupsWithin, wallOf } from "#server/campaigns/wall.ts";
import { newId } from "#server/ids.ts";
import { getContact, stepContact } from "#server/store/contacts.ts";
import { loadDocument } from "#server/store/documents.ts";
import { listTests, recordTest } from "#server/store/tests.ts";
import { ReadingAs } from "../compose/sheets/strip.tsx";
import { submissionOf } from "../form.ts";
import { Closer } from "../proof/closer.tsx";
import { Findings } from "../proof/findings.tsx";
import { testSchema } from "../proof/test-schema.ts";
import { Tests } from "../proof/tests.tsx";
import { Wall } from "../proof/wall.tsx";
import { choiceOf } from "../reader-choice.ts";
import { examinedOf } from "../readiness.ts";
import { at, campaignOf, late, zoneOf } from "../request.ts";
import { Buttonlike } from "../ui/button.tsx";
import { Later } from "../ui/later.tsx";
import { Select } from "../ui/select.tsx";
import { ago, count, readers } from "../ui/words.ts";
import type { Route } from "./+types/campaign.proof.ts";
import { useFrame } from "./campaign.tsx";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

async function readerFor(context: Route.LoaderArgs["context"], id: number) {
  const { sql } = at(context);
  return (id ? await getContact(sql, id) : null) ?? (await stepContact(sql, null, "next"));
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const { doc, seq } = (await loadDocument(sql, campaign.documentId))!;
  const asked = new URL(request.url).searchParams;
  const id = Number(asked.get("reader")) || 0;
  const contact = await readerFor(context, id);
  const email = doc.root.props as unknown as EmailProps;
  const zone = await zoneOf(context);
  const place = (where: string) => {
    const node = find(doc, where)?.node;
    return node && node.type !== "email" ? nameOf(node) : null;
  };
  /** Which version a contact gets. */
  const versionOf = async () => {
    const around = await surroundings(sql, services.config, doc, now, campaign.id);
    const unsent = { doc, around, campaign };
    const world = await worldOfEmail(services, unsent);
    const { bits = "", values } = await readerOf(services, unsent, world, contact);
    const said = values[`contact:${email.languageField}`];
    const group = { bits, people: 1, sample: 0, ...(typeof said === "string" && { said }) };
    return versionsOf(inEachLanguage(doc, around), [group])[0]!.key;
  };
  const { id: family } = familyOf(asked.get("as") ?? "");
  const segment = asked.get("segment");
  return {
    id: campaign.id,
    seq,
    reader: await choiceOf(sql, contact),
    /** Looked at closely: the version this reader gets. */
    closer: asked.has("reader") ? await versionOf() : null,
    width: Number(doc.root.props.width),
    dark: Boolean(email.theme.dark),
    family,
    families: FAMILIES.map(({ id: value, label, says, desktop = false }) => ({
      value,
      label,
      says,
      desktop,
    })),
    wall: late(context, async () => {
      const examined = await examinedOf(context, campaign);
      const groups = segment
        ? await groupsWithin(services, campaign, examined, segment)
        : undefined;
      return wallOf(services, campaign, examined, { pairs: asked.has("pairs"), groups });
    }),
    // The email stands there while its readers are still looked through.
    findings: late(context, async () => {
      const { findings } = await examinedOf(context, campaign);
      return findings.map((finding) => ({ ...finding, place: place(finding.at) }));
    }),
    checks: CHECKS.length,
    tests: (await listTests(sql, campaign.id)).map((test) => ({
      ...test,
      at: ago(test.at, now, zone),
    })),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, testSchema);
  if (submission.status !== "success") return data({ result: submission.reply(), sent: 0 }, 400);
  const { services, sql, now, member } = at(context);
  const { to, reader: id = 0 } = submission.value;
  const campaign = await campaignOf(context, params.campaign);
  const { doc, trouble } = (await loadDocument(sql, campaign.documentId))!;
  if (trouble) {
    const formErrors = [trouble.reason];
    return data({ result: submission.reply({ formErrors }), sent: 0 }, 409);
  }
  const contact = await readerFor(context, id);
  const around = await surroundings(sql, services.config, doc, now, campaign.id);
  if ((doc.root.props as unknown as EmailProps).envelope.fromAddress === "") {
    const formErrors = ["Write the from address in the envelope first."];
    return data({ result: submission.reply({ formErrors }), sent: 0 }, 409);
  }
  const token = services.signer.sign({
    kind: "sample",
    campaign: campaign.id,
    contact: contact?.id ?? 0,
  });
  const unsent = { doc, around, campaign };
  const world = await worldOfEmail(services, unsent);
  const reader = await readerOf(services, unsent, world, contact, token);
  const messages = testMessages(
    compile(doc, around, languageOf(doc, reader.values)),
    to,
    reader,
    services.signer,
    newId,
    now,
  );
  const outcomes = await Promise.all(
    messages.map(async (message) => ({
      address: message.to,
      ...(await services.mailer.send(message)),
    })),
  );
  const failed = outcomes.filter((o) => o.state !== "accepted");
  await recordTest(sql, {
    campaignId: campaign.id,
    addresses: to,
    readAs: contact?.id ?? null,
    failed: failed.map((o) => `${o.address}: ${o.reply}`),
    member: member.id,
    at: now,
  });
  if (failed.length > 0) {
    const fieldErrors = { to: failed.map((o) => `${o.address} was not taken: ${o.reply}`) };
    return data(
      { result: submission.reply({ fieldErrors }), sent: to.length - failed.length },
      409,
    );
  }
  return { result: submission.reply({ resetForm: true }), sent: to.length };
}

export default function Proof({ loaderData, actionData }: Route.ComponentProps) {
  const { id, reader, closer, width, dark, family, families, wall } = loaderData;
  const navigate = useNavigate();
  const [asked, setAsked] = useSearchParams();
  const scroller = useRef<HTMLElement>(null);
  const { tools } = useFrame();
  const segment = asked.get("segment");
  const shownBy = families.find(({ value }) => value === family)!;
  const near = (
    <Closer
      campaign={id}
      contact={reader?.id ?? 0}
      version={closer}
      wall={wall}
      width={width}
      family={shownBy}
    />
  );
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_316px] max-lg:h-auto max-lg:grid-cols-1">
      <main
        ref={scroller}
        className={clsx("overflow-auto bg-bench px-4.5 py-3", !closer && "max-lg:max-h-[80vh]")}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard
        tabIndex={0}
        aria-label="The email"
      >
        <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
          <h1 className="text-head">
            {closer ? (
              "As its readers get it"
            ) : (
              <Later of={wall} until="Every version">
                {(known) =>
                  known.versions.length === 0
                    ? "No readers yet"
                    : `${known.versions.length === 1 ? "One version" : `${count(known.versions.length)} versions`}, ${readers(known.readers)}`
                }
              </Later>
            )}
          </h1>
          <div className="flex flex-wrap items-center gap-2">
            <ReadingAs
              reader={reader}
              onReader={(next) => {
                const query = new URLSearchParams(asked);
                query.set("reader", String(next.id));
                void navigate(`?${query}`, { preventScrollReset: true });
              }}
            />
            <Select
              label="As shown by"
              className="w-52"
              options={families}
              value={family}
              onValue={(value) =>
                setAsked(
                  (before) => {
                    before.set("as", value);
                    return before;
                  },
                  { preventScrollReset: true },
                )
              }
            />
          </div>
        </div>
        {family !== "sent" && <p className="mb-2 text-small text-ink-2">{shownBy.says}</p>}
        {closer ? (
          near
        ) : (
          <Later of={wall} until={<p className="text-ink-3">Counting who gets what…</p>}>
            {(known) =>
              // Nobody gets it yet: it stands there as somebody would see it.
              known.versions.length === 0 && !segment ? (
                near
              ) : (
                <Wall
                  campaign={id}
                  wall={known}
                  width={width}
                  family={shownBy}
                  dark={dark}
                  scroller={scroller}
                />
              )
            }
          </Later>
        )}
      </main>
      <aside className="flex flex-col gap-6 overflow-auto border-l px-4 py-3 max-lg:border-t max-lg:border-l-0">
        <Findings
          campaign={id}
          seq={loaderData.seq}
          findings={loaderData.findings}
          checks={loaderData.checks}
        />
        <Tests reader={reader} tests={loaderData.tests} result={actionData} />
      </aside>
      {tools &&
        createPortal(
          <Buttonlike asChild>
            <a href={`/campaigns/${id}/email.liquid`} download>
              <Download className="size-3.5" /> Liquid template
            </a>
          </Buttonlike>,
          tools,
        )}
    </div>
  );
}
