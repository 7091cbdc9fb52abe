import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Download, Send } from "lucide-react";
import { useEffect } from "react";
import { createPortal } from "react-dom";
import { data, Link, useNavigate } from "react-router";
import { z } from "zod";
import type { EmailProps } from "#core/blocks/layout.ts";
import { nameOf } from "#core/blocks/names.ts";
import { CHECKS } from "#core/checks/index.ts";
import { find } from "#core/document/index.ts";
import { MAIL_ADDRESS } from "#core/fields/address.ts";
import { languageOf } from "#core/languages/index.ts";
import { LIMITS } from "#core/limits.ts";
import { wrapText } from "#core/markup/index.ts";
import { kilobytes, mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { readerOf, worldOfEmail } from "#server/audience/readers.ts";
import { surroundings, testMessages } from "#server/campaigns/emails.ts";
import { newId } from "#server/ids.ts";
import { getContact, stepContact } from "#server/store/contacts.ts";
import { loadDocument } from "#server/store/documents.ts";
import { listTests, recordTest } from "#server/store/tests.ts";
import { ReadingAs } from "../compose/sheets/strip.tsx";
import { submissionOf } from "../form.ts";
import { choiceOf } from "../reader-choice.ts";
import { examinedOf } from "../readiness.ts";
import { at, campaignOf, late, zoneOf } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { EmailFrame } from "../ui/email-frame.tsx";
import { FormErrors, TextAreaField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { useToast } from "../ui/toast.tsx";
import { ago } from "../ui/words.ts";
import type { Route } from "./+types/campaign.proof.ts";
import { useFrame } from "./campaign.tsx";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

/** Addresses apart by commas, blanks or lines; each one that is wrong is named. */
const testSchema = z.object({
  to: z.string("Write at least one address.").transform((text, ctx) => {
    const addresses = [...new Set(text.split(/[\s,;]+/).filter(Boolean))];
    const wrong = addresses.filter((a) => !MAIL_ADDRESS.test(a) || a.length > LIMITS.addressLength);
    if (wrong.length > 0) {
      const message = `${wrong.map((a) => `“${a}”`).join(", ")} ${wrong.length === 1 ? "is not a mail address" : "are not mail addresses"}.`;
      ctx.addIssue({ code: "custom", message });
    } else if (addresses.length > LIMITS.testAddresses) {
      ctx.addIssue({
        code: "custom",
        message: `At most ${LIMITS.testAddresses} addresses at once.`,
      });
    }
    return addresses;
  }),
  reader: z.coerce.number().int().optional(),
});

async function readerFor(context: Route.LoaderArgs["context"], id: number) {
  const { sql } = at(context);
  return (id ? await getContact(sql, id) : null) ?? (await stepContact(sql, null, "next"));
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql, now } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const { doc } = (await loadDocument(sql, campaign.documentId))!;
  const sent = await surroundings(sql, services.config, doc, now, campaign.id);
  const world = await worldOfEmail(services, { doc, around: sent, campaign });
  const id = Number(new URL(request.url).searchParams.get("reader")) || 0;
  const contact = await readerFor(context, id);
  // Pictures come from where the page is, not from the public address.
  const around = { ...sent, publicAddress: "" };
  const reader = await readerOf(services, { doc, around, campaign }, world, contact);
  const own = compile(doc, around, languageOf(doc, reader.values));
  const prepared = prepare(own, { links: "direct", marks: false, sign: unsigned });
  const html = mergeText(prepared.html, reader);
  const zone = await zoneOf(context);
  const place = (where: string) => {
    const node = find(doc, where)?.node;
    return node && node.type !== "email" ? nameOf(node) : null;
  };
  return {
    id: campaign.id,
    subject: mergeText(prepared.subject, reader),
    html,
    // As a program that reads format=flowed shows it: lines run on to the edge of their window.
    text: wrapText(mergeText(prepared.text, reader), Number.POSITIVE_INFINITY),
    width: Number(doc.root.props.width),
    bytes: Buffer.byteLength(html),
    reader: await choiceOf(sql, contact),
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

type Data = Route.ComponentProps["loaderData"];

function Findings({ loaded }: { loaded: Data }) {
  const jump = (where: string, field: readonly string[] = []) =>
    where === "settings"
      ? "/settings"
      : `/campaigns/${loaded.id}?${new URLSearchParams({ at: where, ...(field.length && { in: field.join(".") }) })}`;
  return (
    <section aria-label="Findings">
      <div className="mb-1 flex items-baseline justify-between">
        <h2 className="text-head">Findings</h2>
        <span className="text-small text-ink-2">{loaded.checks} checks</span>
      </div>
      <Later of={loaded.findings} until={<p className="text-ink-3">Looking…</p>}>
        {(findings) => (
          <>
            {findings.length === 0 && <p className="text-leaf">The checks found nothing.</p>}
            <ul>
              {findings.map((finding, i) => (
                <li key={i} className="flex gap-2.5 border-b py-2.5">
                  <span
                    aria-hidden
                    className={`mt-1 size-2.5 flex-none rounded-sm ${finding.severity === "stop" ? "bg-rust" : "bg-saffron"}`}
                  />
                  <div>
                    <div className="text-body font-semibold">{finding.message}</div>
                    <div className="text-small text-ink-2">
                      {finding.severity === "stop" && (
                        <strong className="text-rust">Stops the send. </strong>
                      )}
                      {finding.place && `${finding.place}: `}
                      {finding.detail}
                    </div>
                    <Link className="link mt-1 inline-block" to={jump(finding.at, finding.in)}>
                      Show
                    </Link>
                  </div>
                </li>
              ))}
            </ul>
          </>
        )}
      </Later>
    </section>
  );
}

function Tests({ loaded, result }: { loaded: Data; result: Route.ComponentProps["actionData"] }) {
  const [form, fields] = useForm({
    lastResult: result?.result,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: testSchema }),
    shouldRevalidate: "onInput",
  });
  const say = useToast();
  useEffect(() => {
    if (result?.sent) say(result.sent === 1 ? "One test is out" : `${result.sent} tests are out`);
  }, [result, say]);
  return (
    <section aria-label="Tests">
      <h2 className="mb-1.5 text-head">Tests</h2>
      <Form method="post" {...getFormProps(form)} className="flex flex-col gap-2.5">
        <FormErrors errors={form.errors} />
        <TextAreaField
          meta={fields.to}
          label="Send a test to"
          rows={2}
          hint={`Filled in as ${loaded.reader?.name ?? "nobody"}; marked as a test.`}
        />
        <input type="hidden" name="reader" value={loaded.reader?.id ?? ""} />
        <div>
          <Button type="submit" primary>
            <Send className="size-3.5" /> Send the test
          </Button>
        </div>
      </Form>
      <ul className="mt-3">
        {loaded.tests.map((test) => (
          <li key={test.id} className="border-b py-2">
            <div className="font-semibold break-words">{test.addresses.join(", ")}</div>
            <div className="text-small text-ink-2">
              {test.at}
              {test.failed.length > 0 && (
                <span className="text-rust"> · {test.failed.join("; ")}</span>
              )}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

export default function Proof({ loaderData, actionData }: Route.ComponentProps) {
  const { id, subject, html, text, width, bytes, reader } = loaderData;
  const navigate = useNavigate();
  const { tools } = useFrame();
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_316px] max-lg:h-auto max-lg:grid-cols-1">
      <main
        className="overflow-auto bg-bench px-4.5 py-3"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard
        tabIndex={0}
        aria-label="The email"
      >
        <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
          <h1 className="text-head">As its readers get it</h1>
          <ReadingAs
            reader={reader}
            onReader={(next) => void navigate(`?reader=${next.id}`, { preventScrollReset: true })}
          />
        </div>
        <p className="mb-3 text-body">
          <span className="text-ink-2">Subject: </span>
          <strong>{subject || "none yet"}</strong>
          <span className="ml-3 text-ink-2">{kilobytes(bytes)} KB</span>
        </p>
        <div className="flex flex-wrap items-start gap-4 xl:flex-nowrap">
          <figure className="max-md:order-2 max-md:max-w-full max-md:overflow-x-auto">
            <EmailFrame html={html} title="Wide" width={width} scale={0.72} />
            <figcaption className="mt-1 text-small text-ink-2">wide, {width} px</figcaption>
          </figure>
          <figure>
            <EmailFrame html={html} title="Narrow" width={LIMITS.narrowWidth} scale={0.62} />
            <figcaption className="mt-1 text-small text-ink-2">
              narrow, {LIMITS.narrowWidth} px
            </figcaption>
          </figure>
          <figure className="min-w-[200px] flex-1 max-md:order-3">
            <pre className="min-h-40 border bg-sheet p-3 font-mono text-fine leading-snug whitespace-pre-wrap text-ink break-words">
              {text}
            </pre>
            <figcaption className="mt-1 text-small text-ink-2">plain text</figcaption>
          </figure>
        </div>
      </main>
      <aside className="flex flex-col gap-6 overflow-auto border-l px-4 py-3 max-lg:border-t max-lg:border-l-0">
        <Findings loaded={loaderData} />
        <Tests loaded={loaderData} result={actionData} />
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
