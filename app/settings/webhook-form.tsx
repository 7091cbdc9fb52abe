/** Where another system is told that a sending starts and ends. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { TextField } from "../ui/field.tsx";
import { webhookFormSchema } from "./schemas.ts";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

export function WebhookForm({ data, result }: { data: SettingsData; result: Result }) {
  const { webhook } = data.settings;
  const [form, fields] = useForm({
    id: "webhook",
    lastResult: answer(result, "webhook"),
    defaultValue: { address: webhook?.address ?? "" },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: webhookFormSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <SectionForm what="webhook" title="Webhook" save="Save the webhook" form={form}>
      <TextField
        meta={fields.address}
        label="Tell this address when a sending starts and ends"
        inputMode="url"
        autoComplete="off"
        placeholder="https://"
        hint="By POST, as JSON with the campaign’s name and how many got it. Where nobody answers it is told again, for a day. Private addresses are refused."
      />
      {webhook && (
        <div className="text-small">
          <p className="text-ink-2">
            Signed with this secret: HMAC-SHA256 of the body, in hexadecimal, in the header
            X-Signature.
          </p>
          <code className="mt-1 block rounded-md bg-bench px-2 py-1 break-all select-all">
            {webhook.secret}
          </code>
        </div>
      )}
    </SectionForm>
  );
}
