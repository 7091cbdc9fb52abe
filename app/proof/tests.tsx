import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Send } from "lucide-react";
import { useEffect } from "react";
import type { TestSend } from "#server/store/tests.ts";
import type { ReaderChoice } from "../compose/wire.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors, TextAreaField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { useToast } from "../ui/toast.tsx";
import { testSchema } from "./test-schema.ts";

/** A test that is out, with how long ago. */
export type ShownTest = Omit<TestSend, "at"> & { readonly at: string };

/** Test sends: a form, and those that are out. */
export function Tests({
  reader,
  tests,
  result,
}: {
  reader: ReaderChoice | null;
  tests: readonly ShownTest[];
  result: { readonly result: SubmissionResult; readonly sent: number } | undefined;
}) {
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
          hint={`Filled in as ${reader?.name ?? "nobody"}; marked as a test.`}
        />
        <input type="hidden" name="reader" value={reader?.id ?? ""} />
        <div>
          <Button type="submit" primary>
            <Send className="size-3.5" /> Send the test
          </Button>
        </div>
      </Form>
      <ul className="mt-3">
        {tests.map((test) => (
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
