/** Sending again to those who did not open, with another subject. */
import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useNavigation } from "react-router";
import { Button } from "../ui/button.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { people } from "../ui/words.ts";
import { againSchema } from "./again-schema.ts";

export function Again({
  unopened,
  subject,
  result,
}: {
  /** How many have not opened it by now. */
  unopened: number;
  /** What stood in the subject. */
  subject: string;
  result: SubmissionResult<string[]> | undefined;
}) {
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm({
    lastResult: result,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: againSchema }),
    shouldRevalidate: "onInput",
  });
  return (
    <section aria-label="Send again">
      <h2 className="mb-2 text-head">Send again to those who did not open</h2>
      <p className="mb-3 text-small text-ink-2">
        {people(unopened)} by now. It becomes a draft of its own, for whoever has not opened it by
        the time it is sent; the first subject was “{subject}”.
      </p>
      <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
        <FormErrors errors={form.errors} />
        <TextField meta={fields.subject} label="Another subject" autoComplete="off" />
        <div>
          <Button type="submit" disabled={busy}>
            Make the draft
          </Button>
        </div>
      </Form>
    </section>
  );
}
