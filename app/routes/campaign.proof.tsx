import clsx from "clsx";
import { Download, Printer } from "lucide-react";
import { useRef } from "react";
import { createPortal } from "react-dom";
import { data, Link, useNavigate, useSearchParams } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import { nameOf } from "#core/blocks/names.ts";
import { CHECKS } from "#core/checks/index.ts";
import { FAMILIES, familyOf } from "#core/clients/index.ts";
import { find } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { linksOf } from "#core/links/links.ts";
import { compile } from "#core/render/index.ts";
import { reachOf } from "#core/versions/index.ts";
import { bringCampaignUpToDate } from "#server/campaigns/linking.ts";
import { sendTests } from "#server/campaigns/tests.ts";
import { groupsWithin, wallOf } from "#server/campaigns/wall.ts";
import { haveLinksAsked } from "#server/links/asking.ts";
import { getContact, stepContact } from "#server/store/contacts.ts";
import { loadDocument } from "#server/store/documents.ts";
import { listTests, testGroups } from "#server/store/tests.ts";
import { ReadingAs } from "../compose/sheets/strip.tsx";
import { submissionOf } from "../form.ts";
import { AskingLinks } from "../proof/asking.tsx";
import { Closer } from "../proof/closer.tsx";
import { Counts } from "../proof/counts.tsx";
import { Findings } from "../proof/findings.tsx";
import { useFollow } from "../proof/follow.ts";
import { Links } from "../proof/links.tsx";
import { Parameters } from "../proof/parameters.tsx";
import { testSchema } from "../proof/test-schema.ts";
import { Tests } from "../proof/tests.tsx";
import { Wall } from "../proof/wall.tsx";
import { choiceOf } from "../reader-choice.ts";
import { examinedOf, wallFor } from "../readiness.ts";
import { at, campaignOf, late, zoneOf } from "../request.ts";
import { reviewShown } from "../review/loaded.ts";
import { Review } from "../review/section.tsx";
import { Buttonlike } from "../ui/button.tsx";
import { Later } from "../ui/later.tsx";
import { Segmented } from "../ui/segmented.tsx";
import { Select } from "../ui/select.tsx";
import { ago, counted, readers } from "../ui/words.ts";
import type { Route } from "./+types/campaign.proof.ts";
import { useFrame } from "./campaign.tsx";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

async function readerFor(context: Route.LoaderArgs["context"], id: number) {
  const { sql } = at(context);
  return (id ? await getContact(sql, id) : null) ?? (await stepContact(sql, null, "next"));
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql, member, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  await bringCampaignUpToDate(services, campaign, member.id);
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
  const { id: family } = familyOf(asked.get("as") ?? "");
  const segment = asked.get("segment");
  return {
    id: campaign.id,
    seq,
    reader: await choiceOf(sql, contact),
    /** The version this reader gets is looked at closely. */
    closer: asked.has("reader"),
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
    review: late(context, async () =>
      reviewShown(context, campaign, await examinedOf(context, campaign)),
    ),
    /** Somebody is asked whether anything is there where the links lead. */
    asking: await haveLinksAsked(services, campaign.id, doc),
    // The table of links is loaded where it is asked for.
    links: asked.has("links")
      ? late(context, async () => {
          const { stored, around, readers: known } = await examinedOf(context, campaign);
          return {
            doc: stored.doc,
            parameters: around.linkParameters ?? [],
            rows: linksOf(stored.doc, compile(stored.doc, around)).map(({ to, places }) => ({
              to,
              places: places.map((one) => ({
                ...one,
                people: reachOf(one.when, known.conditions, known.groups),
              })),
            })),
          };
        })
      : null,
    checks: CHECKS.length,
    tests: (await listTests(sql, campaign.id)).map(({ messages, ...test }) => ({
      ...test,
      at: ago(test.at, now, zone),
      addresses: [...new Set(messages.map(({ address }) => address))],
      readers: new Set(messages.map((one) => one.contact)).size,
      sent: messages.length,
      opened: messages.filter(({ openedAt }) => openedAt !== null).length,
      failed: messages.flatMap((one) => (one.failed ? [`${one.address}: ${one.failed}`] : [])),
    })),
    groups: await testGroups(sql),
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, testSchema);
  if (submission.status !== "success") return data({ result: submission.reply(), sent: 0 }, 400);
  const { services, sql, member } = at(context);
  const { to, reader: id = 0, whom, picked = [], note, table } = submission.value;
  const campaign = await campaignOf(context, params.campaign);
  const { doc, trouble } = (await loadDocument(sql, campaign.documentId))!;
  if (trouble) {
    const formErrors = [trouble.reason];
    return data({ result: submission.reply({ formErrors }), sent: 0 }, 409);
  }
  if ((doc.root.props as unknown as EmailProps).envelope.fromAddress === "") {
    const formErrors = ["Write the from address in the envelope first."];
    return data({ result: submission.reply({ formErrors }), sent: 0 }, 409);
  }
  let contacts = [(await readerFor(context, id))?.id ?? 0];
  if (whom === "picked") {
    const known = await Promise.all(picked.map((one) => getContact(sql, one)));
    contacts = known.flatMap((one) => one?.id ?? []);
    if (contacts.length === 0) {
      const fieldErrors = { whom: ["Pick a reader first."] };
      return data({ result: submission.reply({ fieldErrors }), sent: 0 }, 409);
    }
  } else if (whom !== "reader") {
    const { versions, smallest } = await wallFor(context, campaign);
    const some = versions.filter(({ key }) => whom === "all" || smallest.includes(key));
    if (some.length === 0 || some.length > LIMITS.testReaders) {
      const message = some.length
        ? `There are ${some.length} versions; a test shows ${LIMITS.testReaders} at most.`
        : "Nobody gets this email yet: choose its readers first.";
      return data({ result: submission.reply({ fieldErrors: { whom: [message] } }), sent: 0 }, 409);
    }
    contacts = some.map(({ sample }) => sample);
  }
  const outcomes = await sendTests(services, campaign, {
    doc,
    to,
    contacts,
    note: note.trim(),
    table,
    member: member.id,
  });
  const failed = new Map(
    outcomes.flatMap(({ taken, address, reply }) => (taken ? [] : [[address, reply] as const])),
  );
  const sent = outcomes.filter(({ taken }) => taken).length;
  if (failed.size > 0) {
    const problems = [...failed].map(([address, reply]) => `${address} was not taken: ${reply}`);
    return data({ result: submission.reply({ fieldErrors: { to: problems } }), sent }, 409);
  }
  return { result: submission.reply({ resetForm: true }), sent };
}

export default function Proof({ loaderData, actionData }: Route.ComponentProps) {
  const { id, reader, closer, width, dark, family, families, wall } = loaderData;
  const navigate = useNavigate();
  const [asked, setAsked] = useSearchParams();
  const scroller = useRef<HTMLElement>(null);
  const { tools } = useFrame();
  useFollow(id, loaderData.seq);
  const segment = asked.get("segment");
  const shownBy = families.find(({ value }) => value === family)!;
  const near = (
    <Closer
      campaign={id}
      seq={loaderData.seq}
      contact={reader?.id ?? 0}
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
            {loaderData.links ? (
              "Links"
            ) : closer ? (
              "As its readers get it"
            ) : (
              <Later of={wall} until="Every version">
                {(known) =>
                  known.versions.length === 0
                    ? "No readers yet"
                    : `${counted(known.versions.length, "version")}, ${readers(known.readers)}`
                }
              </Later>
            )}
          </h1>
          <div className="flex flex-wrap items-center gap-2">
            <Segmented
              label="What is shown"
              value={loaderData.links ? "links" : "email"}
              options={[
                { value: "email", label: "Email" },
                { value: "links", label: "Links" },
              ]}
              onChange={(value) =>
                setAsked((before) => {
                  if (value === "links") before.set("links", "1");
                  else before.delete("links");
                  return before;
                })
              }
            />
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
              className="w-44"
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
        {loaderData.links ? (
          <Later of={loaderData.links} until={<p className="text-ink-3">Looking for links…</p>}>
            {(known) => (
              <>
                <Parameters
                  campaign={id}
                  seq={loaderData.seq}
                  doc={known.doc}
                  parameters={known.parameters}
                />
                <Counts campaign={id} seq={loaderData.seq} doc={known.doc} />
                <Links campaign={id} seq={loaderData.seq} doc={known.doc} links={known.rows} />
              </>
            )}
          </Later>
        ) : closer ? (
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
                  seq={loaderData.seq}
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
        {loaderData.asking && <AskingLinks campaign={id} />}
        <Review campaign={id} review={loaderData.review} />
        <Tests
          reader={reader}
          tests={loaderData.tests}
          groups={loaderData.groups}
          wall={wall}
          result={actionData}
        />
      </aside>
      {tools &&
        createPortal(
          <>
            <Buttonlike asChild>
              <Link to={`/campaigns/${id}/print`}>
                <Printer className="size-3.5" /> Print
              </Link>
            </Buttonlike>
            <Buttonlike asChild>
              <Link to={`/campaigns/${id}/export`}>
                <Download className="size-3.5" /> Export
              </Link>
            </Buttonlike>
          </>,
          tools,
        )}
    </div>
  );
}
