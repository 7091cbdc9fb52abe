/** Who the emails are from. */
import { getFormProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { senderSchema } from "#server/store/settings.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors, SelectField, TextAreaField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { answer, CARD, type Result, type SettingsData } from "./section.ts";

export function SenderForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const [form, fields] = useForm({
    id: "sender",
    lastResult: answer(result, "sender"),
    defaultValue: loaded.settings.sender,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: senderSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <Form method="post" {...getFormProps(form)} className={CARD}>
      <h2 id="sender" className="text-[20px]">
        Sender
      </h2>
      <FormErrors errors={form.errors} />
      <input type="hidden" name="what" value="sender" />
      <TextField meta={fields.brandName} label="Brand name" />
      <TextAreaField
        meta={fields.postalAddress}
        label="Postal address"
        hint="Shown in the footer of every email. Nothing can be sent without it."
      />
      <TextField meta={fields.fromName} label="From (name)" />
      <TextField meta={fields.fromAddress} label="From (address)" type="email" />
      <TextField
        meta={fields.replyTo}
        label="Replies go to"
        type="email"
        hint="Empty: to the from address."
      />
      <SelectField
        meta={fields.language}
        label="Dates are written in"
        options={[
          { value: "en-GB", label: "English, 30/03/2031" },
          { value: "fr", label: "French, 30/03/2031" },
        ]}
      />
      <SelectField
        meta={fields.zone}
        label="Time zone"
        options={loaded.zones.map((zone) => ({ value: zone, label: zone.replaceAll("_", " ") }))}
      />
      <div>
        <Button type="submit" primary>
          Save the sender
        </Button>
      </div>
    </Form>
  );
}
