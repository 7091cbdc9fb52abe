/** When a launch stops and asks. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { sendingSchema } from "#server/store/settings.ts";
import { Button } from "../ui/button.tsx";
import { TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

export function SendingForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const [form, fields] = useForm({
    id: "sending",
    lastResult: answer(result, "sending"),
    defaultValue: { bounceShare: String(loaded.settings.sending.bounceShare) },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: sendingSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 className="text-[20px]">Sending</h2>
      <input type="hidden" name="what" value="sending" />
      <TextField
        meta={fields.bounceShare}
        label="Pause and ask once more than this share bounces, %"
        inputMode="decimal"
        hint="Counted from 50 answers on. Mail services shut out senders with many bounces."
      />
      <div>
        <Button type="submit" primary>
          Save the limit
        </Button>
      </div>
    </Form>
  );
}
