/** Who the emails are from. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { senderSchema } from "#server/store/settings.ts";
import { SelectField, TextAreaField, TextField } from "../ui/field.tsx";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

export function SenderForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const [form, fields] = useForm({
    id: "sender",
    lastResult: answer(result, "sender"),
    defaultValue: loaded.settings.sender,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: senderSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <SectionForm what="sender" title="Sender" save="Save the sender" form={form}>
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
    </SectionForm>
  );
}
