import { getFormProps, type SubmissionResult, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { Send } from "lucide-react";
import { useEffect, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import type { Wall } from "#server/campaigns/wall.ts";
import type { TestGroup } from "#server/store/tests.ts";
import type { ReaderChoice } from "../compose/wire.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { FormErrors, SelectField, TextAreaField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { useToast } from "../ui/toast.tsx";
import { TestGroups } from "./test-group.tsx";
import { testSchema } from "./test-schema.ts";

/** A test that is out, with how long ago. */
export interface ShownTest {
  readonly id: number;
  readonly at: string;
  readonly addresses: readonly string[];
  /** As how many it was filled in. */
  readonly readers: number;
  readonly sent: number;
  readonly opened: number;
  readonly failed: readonly string[];
}

/** What stands in a field of a form at this moment. */
const written = (form: string, name: string): string =>
  String(new FormData(document.getElementById(form) as HTMLFormElement).get(name) ?? "");

/** Test sends: a form, and those that are out. */
export function Tests({
  reader,
  tests,
  groups,
  wall,
  result,
}: {
  reader: ReaderChoice | null;
  tests: readonly ShownTest[];
  groups: readonly TestGroup[];
  wall: Promise<Wall>;
  result: { readonly result: SubmissionResult; readonly sent: number } | undefined;
}) {
  const [form, fields] = useForm({
    lastResult: result?.result,
    defaultValue: { whom: "reader" },
    onValidate: ({ formData }) => parseWithZod(formData, { schema: testSchema }),
    shouldRevalidate: "onInput",
  });
  const say = useToast();
  /** Readers as whom tests are filled in, beside the one who is looked at. */
  const [picked, setPicked] = useState<readonly ReaderChoice[]>([]);
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
        <TestGroups
          groups={groups}
          addresses={() => written(form.id, fields.to.name)}
          onTake={(value) => form.update({ name: fields.to.name, value })}
        />
        <Later of={wall} until={null}>
          {({ versions, smallest }) => (
            <SelectField
              meta={fields.whom}
              label="Filled in as"
              options={[
                { value: "reader", label: reader?.name ?? "nobody" },
                ...(picked.length > 0
                  ? [{ value: "picked", label: picked.map(({ name }) => name).join(", ") }]
                  : []),
                ...(versions.length > 1
                  ? [
                      { value: "smallest", label: `the smallest set: ${smallest.length} readers` },
                      { value: "all", label: `each version: ${versions.length} readers` },
                    ]
                  : []),
              ]}
            />
          )}
        </Later>
        {reader &&
          picked.length < LIMITS.testReaders &&
          !picked.some(({ id }) => id === reader.id) && (
            <div>
              <button
                type="button"
                className="link text-small"
                onClick={() => {
                  setPicked([...picked, reader]);
                  form.update({ name: fields.whom.name, value: "picked" });
                }}
              >
                Pick {reader.name} for tests
              </button>
            </div>
          )}
        {picked.length > 0 && (
          <p className="text-small text-ink-2">
            Picked: {picked.map(({ name }) => name).join(", ")}.{" "}
            <button
              type="button"
              className="link"
              onClick={() => {
                setPicked([]);
                form.update({ name: fields.whom.name, value: "reader" });
              }}
            >
              Pick nobody
            </button>
          </p>
        )}
        <input
          type="hidden"
          name={fields.picked.name}
          value={picked.map(({ id }) => id).join(",")}
        />
        <TextAreaField meta={fields.note} label="A note on top" rows={2} />
        <Checkbox
          label="With a table of what was filled in"
          className="text-small"
          name={fields.table.name}
          value="on"
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
              {test.at} · {test.sent === 1 ? "1 message" : `${test.sent} messages`}
              {test.readers > 1 && `, as ${test.readers} readers`} · {test.opened} opened
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
