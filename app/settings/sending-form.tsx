/** When a launch stops and asks. */
import { useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { hourTime } from "#core/schedule/index.ts";
import { sendingSchema } from "#server/store/settings.ts";
import { SelectField, TextField } from "../ui/field.tsx";
import { answer, type Result, type SettingsData } from "./section.ts";
import { SectionForm } from "./section-form.tsx";

const HOURS = [
  { value: "", label: "–" },
  ...Array.from({ length: 24 }, (_, hour) => ({ value: String(hour), label: hourTime(hour) })),
];

export function SendingForm({ data: loaded, result }: { data: SettingsData; result: Result }) {
  const { bounceShare, capEmails, capDays, orderDays, quietFrom, quietTo, nameField, perMinute } =
    loaded.settings.sending;
  const [form, fields] = useForm({
    id: "sending",
    lastResult: answer(result, "sending"),
    defaultValue: {
      bounceShare: String(bounceShare),
      capEmails: capEmails === undefined ? "" : String(capEmails),
      capDays: String(capDays),
      orderDays: String(orderDays),
      nameField,
      perMinute: perMinute === undefined ? "" : String(perMinute),
      quietFrom: quietFrom === undefined ? "" : String(quietFrom),
      quietTo: quietTo === undefined ? "" : String(quietTo),
    },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: sendingSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <SectionForm what="sending" title="Sending" save="Save the limits" form={form}>
      <TextField
        meta={fields.bounceShare}
        label="Pause and ask once more than this share bounces, %"
        inputMode="decimal"
        hint="Counted from 50 answers on. Mail services shut out senders with many bounces."
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          meta={fields.capEmails}
          label="Emails to a person, at most"
          inputMode="numeric"
          placeholder="any number"
        />
        <TextField meta={fields.capDays} label="Within (days)" inputMode="numeric" />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <SelectField meta={fields.quietFrom} label="Nobody gets an email from" options={HOURS} />
        <SelectField meta={fields.quietTo} label="until" options={HOURS} />
      </div>
      <p className="text-small text-ink-3">
        At each reader’s own clock. What would go out then waits until it is over.
      </p>
      <TextField
        meta={fields.perMinute}
        label="Messages a minute to one domain, at most"
        inputMode="numeric"
        placeholder="as quickly as they go"
        hint="Domains that ask us to slow down are obeyed in any case."
      />
      <SelectField
        meta={fields.nameField}
        label="Name in the To line"
        options={[
          { value: "", label: "none" },
          ...loaded.texts.map(({ id, label }) => ({ value: id, label })),
        ]}
      />
      <TextField
        meta={fields.orderDays}
        label="Days after a click in which an order counts"
        inputMode="numeric"
      />
    </SectionForm>
  );
}
