/** What is chosen, large at both widths, and its start. */

import type { SubmissionResult } from "@conform-to/react";
import { getFormProps, useForm } from "@conform-to/react";
import { Look } from "../desk/look.tsx";
import { Button } from "../ui/button.tsx";
import { FormErrors, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { counted, fileSize } from "../ui/words.ts";

export interface ChosenStart {
  readonly from: string;
  readonly name: string | null;
  readonly about: string;
  readonly trouble: string | null;
  readonly look: string | null;
  readonly bands: number;
  /** Of its HTML; null where nothing stands in it yet. */
  readonly bytes: Promise<number> | null;
  readonly proposed: string;
}

export function Chosen({
  chosen: { from, name, about, trouble, look, bands, bytes, proposed },
  theme,
  result,
}: {
  chosen: ChosenStart;
  theme: string;
  result: SubmissionResult<string[]> | undefined;
}) {
  const [form, fields] = useForm<{ name: string; from: string; theme: string }>({
    lastResult: result,
    defaultValue: { name: proposed },
  });
  const problems = [...(form.errors ?? []), ...(fields.from.errors ?? [])];
  return (
    <aside
      aria-label="What is chosen"
      className="sticky top-0 flex h-[calc(100vh-49px)] flex-col px-5 py-4 max-lg:static max-lg:h-auto"
    >
      <div className="mb-1 flex items-baseline justify-between gap-3">
        <h2 className="font-display text-display leading-tight">{name ?? "That is gone"}</h2>
        {look && (
          <span className="text-small whitespace-nowrap text-ink-3">
            {counted(bands, "band")}
            {bytes && <Later of={bytes}>{(all) => ` · ${fileSize(all)}`}</Later>}
          </span>
        )}
      </div>
      <p className="mb-3 text-small text-ink-2">{trouble ?? about}</p>
      <div className="flex min-h-0 flex-1 items-start gap-3 overflow-hidden">
        {look && (
          <>
            <Look src={look} scale={0.37} height={560} framed={false} />
            <Look src={look} scale={0.34} height={440} framed={false} at="narrow" />
          </>
        )}
      </div>
      <Form
        method="post"
        {...getFormProps(form)}
        className="mt-3 rounded-md border bg-sheet px-3.5 py-3"
      >
        <FormErrors errors={problems.length > 0 ? problems : null} />
        <input type="hidden" name="from" value={from} />
        <input type="hidden" name="theme" value={theme} />
        <div className="flex items-end gap-2">
          <div className="flex-1">
            <TextField meta={fields.name} label="Name of the campaign" />
          </div>
          <Button type="submit" primary disabled={name === null || trouble !== null}>
            Start composing
          </Button>
        </div>
      </Form>
    </aside>
  );
}
