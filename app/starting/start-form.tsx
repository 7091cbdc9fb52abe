/** The name of what is started, and the start; or it is kept as a template. */
import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { Button } from "../ui/button.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";

export function StartForm({
  name,
  result,
}: {
  name: string;
  result: SubmissionResult<string[]> | undefined;
}) {
  const [form, fields] = useForm<{ name: string }>({
    id: "start",
    lastResult: result,
    defaultValue: { name },
  });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <FormErrors errors={form.errors ?? null} />
      <TextField meta={fields.name} label="Name of the campaign" />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" name="do" value="start" primary>
          Start composing
        </Button>
        <Button type="submit" name="do" value="template">
          Keep it as a template
        </Button>
      </div>
    </Form>
  );
}
