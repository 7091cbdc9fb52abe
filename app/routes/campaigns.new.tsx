import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, redirect, useSearchParams } from "react-router";
import { z } from "zod";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { isBlank, line } from "#core/text/index.ts";
import { required } from "#server/forms.ts";
import { newId } from "#server/ids.ts";
import {
  createCampaign,
  getCampaign,
  getTemplate,
  listTemplates,
} from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { getSettings, type Settings } from "#server/store/settings.ts";
import { submissionOf } from "../form.ts";
import { at } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors, SelectField, TextField } from "../ui/field.tsx";
import { finderOf } from "../ui/finder.ts";
import { Form } from "../ui/form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import type { Route } from "./+types/campaigns.new.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "New campaign · Septima" }];

const STARTS = finderOf("starts");

const schema = z.object({
  name: required("Give it a name that you will find again."),
  from: z.string().regex(/^(blank|template:\w+|campaign:\w+)$/, "Choose what to start from."),
});

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const templates = await listTemplates(sql, { limit: LIMITS.templatesPerPage });
  // Others, and earlier campaigns, are found by typing.
  return {
    options: [
      { value: "blank", label: "A blank email" },
      ...templates.map((t) => ({ value: `template:${t.id}`, label: `Template: ${t.name}` })),
    ],
  };
}

/** An empty email in the brand's looks: only the footer stands, because every email needs one. */
function blank(settings: Settings): EmailDocument {
  const footer = createBlock("footer", newId);
  const bands = [createBand(newId, [createColumn(newId, [footer])], { name: "Footer" })];
  return createDocument(bands, { theme: settings.theme });
}

/** The sender from the settings, where the document names none. */
function withSender(doc: EmailDocument, { sender }: Settings): EmailDocument {
  const props = doc.root.props as unknown as EmailProps;
  const { envelope } = props;
  const filled = {
    ...envelope,
    fromName: isBlank(envelope.fromName) ? line(sender.fromName) : envelope.fromName,
    fromAddress: envelope.fromAddress || sender.fromAddress,
    replyTo: envelope.replyTo || sender.replyTo,
  };
  return { ...doc, root: { ...doc.root, props: { ...props, envelope: filled } as never } };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { sql, now } = at(context);
  const { name, from } = submission.value;
  const settings = await getSettings(sql);
  const [kind, id] = from.split(":") as [string, string | undefined];
  let doc = blank(settings);
  let audience: Parameters<typeof createCampaign>[4];
  let topic: string | null = null;
  if (id) {
    const source = kind === "template" ? await getTemplate(sql, id) : await getCampaign(sql, id);
    const stored = source && (await loadDocument(sql, source.documentId));
    if (!stored) return data(submission.reply({ fieldErrors: { from: ["That is gone."] } }), 400);
    if (stored.trouble) {
      return data(submission.reply({ fieldErrors: { from: [stored.trouble.reason] } }), 400);
    }
    doc = stored.doc;
    // Who has left its topic is not to get what comes of it either.
    if ("audience" in source) ({ audience, topic } = source);
  }
  const email = withSender(doc, settings);
  const campaign = await createCampaign(sql, name, email, now, audience, topic);
  return redirect(`/campaigns/${campaign}`);
}

export default function NewCampaign({ loaderData, actionData }: Route.ComponentProps) {
  const [params] = useSearchParams();
  const [template, campaign] = [params.get("template"), params.get("from")];
  const [form, fields] = useForm({
    lastResult: actionData,
    defaultValue: {
      from: template ? `template:${template}` : campaign ? `campaign:${campaign}` : "blank",
    },
    onValidate: ({ formData }) => parseWithZod(formData, { schema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Page>
      <PageTitle
        title="New campaign"
        about="Everything can be changed later, the name and the start included."
      />
      <Form method="post" {...getFormProps(form)} className="flex max-w-[420px] flex-col gap-4">
        <FormErrors errors={form.errors} />
        <TextField meta={fields.name} label="Name" placeholder="For you and the team only" />
        <SelectField
          meta={fields.from}
          label="Start from"
          options={loaderData.options}
          finder={STARTS}
        />
        <div>
          <Button type="submit" primary>
            Start composing
          </Button>
        </div>
      </Form>
    </Page>
  );
}
