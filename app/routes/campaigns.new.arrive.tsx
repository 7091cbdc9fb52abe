/** Starting from what somebody brings along: a text, a page, an email that was made elsewhere. */
import { getFormProps, useForm } from "@conform-to/react";
import { data, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { bring } from "#server/arriving/arrive.ts";
import { ArrivalError } from "#server/arriving/error.ts";
import { submissionOf } from "../form.ts";
import { at } from "../request.ts";
import { BRINGS, type Bring } from "../starting/address.ts";
import { Tabs } from "../starting/tabs.tsx";
import { Button } from "../ui/button.tsx";
import { FileField, FormErrors, TextAreaField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import type { Route } from "./+types/campaigns.new.arrive.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Start a campaign · Septima" }];

const isBring = (as: string | null): as is Bring => as !== null && Object.hasOwn(BRINGS, as);

export function loader({ request }: Route.LoaderArgs) {
  const as = new URL(request.url).searchParams.get("as");
  return { as: isBring(as) ? as : "text" };
}

const schema = z
  .object({
    as: z.enum(Object.keys(BRINGS) as [Bring, ...Bring[]]),
    words: z
      .string()
      .max(LIMITS.foreignHtml, `At most ${LIMITS.foreignHtml / 1e6} million letters.`)
      .default(""),
    file: z
      .instanceof(File)
      .refine(
        ({ size }) => size <= LIMITS.foreignUpload,
        `A file may have at most ${LIMITS.foreignUpload / 1e6} MB.`,
      )
      .optional(),
  })
  .refine(({ words, file }) => words.trim() !== "" || (file && file.size > 0), {
    message: "Choose a file, or write something.",
    path: ["words"],
  });

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { services, member } = at(context);
  const { as, words, file } = submission.value;
  const brought =
    file && file.size > 0
      ? { name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) }
      : {
          name: as === "text" ? "text.md" : "pasted.html",
          bytes: new TextEncoder().encode(words),
        };
  try {
    return redirect(`/campaigns/new/arrived/${await bring(services, brought, member.id)}`);
  } catch (error) {
    if (!(error instanceof ArrivalError)) throw error;
    const at = file && file.size > 0 ? "file" : "words";
    return data(submission.reply({ fieldErrors: { [at]: [error.message] } }), 400);
  }
}

const WAYS = {
  text: {
    about:
      "Headings, paragraphs, lists, links and images become blocks in your theme. A link alone on its line becomes a button.",
    words: "Write or paste it here",
    hint: "Plain text or Markdown.",
    file: "Or a file",
    accept: ".docx,.md,.markdown,.txt",
    kinds: "A Word document (.docx), Markdown or plain text.",
  },
  file: {
    about:
      "An email that was made elsewhere is taken apart into bands and blocks, as far as it can be understood. You see it beside how it came before anything is made of it.",
    words: "Or paste its HTML here",
    hint: "A page of the web is taken too: its main part.",
    file: "A file",
    accept: ".html,.htm,.zip,.eml,.json",
    kinds: "HTML, a ZIP file with its images, a message (.eml), or a file of Septima (.json).",
  },
} as const;

export default function Arrive({ loaderData: { as }, actionData }: Route.ComponentProps) {
  const busy = useNavigation().formAction?.includes("/arrive") ?? false;
  const way = WAYS[as];
  return (
    <main className="px-8 py-6 max-md:px-4">
      <h1 className="mb-3 text-display leading-tight">Start a campaign</h1>
      <Tabs on={as} />
      <BringForm key={as} as={as} way={way} busy={busy} result={actionData} />
    </main>
  );
}

function BringForm({
  as,
  way,
  busy,
  result,
}: {
  as: Bring;
  way: (typeof WAYS)[Bring];
  busy: boolean;
  result: Route.ComponentProps["actionData"];
}) {
  const [form, fields] = useForm<{ words: string; file: File }>({
    lastResult: result as never,
    id: `bring-${as}`,
  });
  const file = (
    <FileField
      label={way.file}
      hint={way.kinds}
      errors={fields.file.errors}
      name="file"
      accept={way.accept}
    />
  );
  const words = (
    <TextAreaField
      meta={fields.words}
      label={way.words}
      hint={way.hint}
      rows={as === "text" ? 14 : 6}
      spellCheck={as === "text"}
      style={as === "text" ? {} : { fontFamily: "monospace" }}
    />
  );
  return (
    <Form
      method="post"
      encType="multipart/form-data"
      {...getFormProps(form)}
      className="mt-4 flex max-w-2xl flex-col gap-4"
    >
      <input type="hidden" name="as" value={as} />
      <p className="text-body text-ink-2">{way.about}</p>
      <FormErrors errors={form.errors ?? null} />
      {as === "text" ? words : file}
      {as === "text" ? file : words}
      <div>
        <Button type="submit" primary disabled={busy}>
          {busy ? "Reading…" : "Look at it"}
        </Button>
      </div>
    </Form>
  );
}
