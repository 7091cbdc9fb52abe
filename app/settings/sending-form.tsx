/** When a launch stops and asks. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { sendingSchema } from "#server/store/settings.ts";
import { TextField } from "../ui/field.tsx";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

export function SendingForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const [form, fields] = useForm({
    id: "sending",
    lastResult: answer(result, "sending"),
    defaultValue: { bounceShare: String(loaded.settings.sending.bounceShare) },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: sendingSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <SectionForm what="sending" title="Sending" save="Save the limit" form={form}>
      <TextField
        meta={fields.bounceShare}
        label="Pause and ask once more than this share bounces, %"
        inputMode="decimal"
        hint="Counted from 50 answers on. Mail services shut out senders with many bounces."
      />
    </SectionForm>
  );
}
