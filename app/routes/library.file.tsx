/** One file that links lead to: its name, what links to it, and deleting it. */
import { data, Link } from "react-router";
import { z } from "zod";
import { FILE_NAME, filePath } from "#core/text/index.ts";
import { required } from "#server/forms.ts";
import { hideFile } from "#server/store/bin.ts";
import { getFile, renameFile } from "#server/store/files.ts";
import { whereUsed } from "#server/store/uses.ts";
import { submissionOf } from "../form.ts";
import { Uses } from "../library/uses.tsx";
import { tellingRemoved } from "../removed.ts";
import { at, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Field, FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { useTold } from "../ui/toast.tsx";
import { ago, fileSize } from "../ui/words.ts";
import type { Route } from "./+types/library.file.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.file.name ?? "File"} · Septima` },
];

const GONE = "This file is gone.";

async function fileOf(context: Route.LoaderArgs["context"], asked: string) {
  const file = FILE_NAME.test(asked) ? await getFile(at(context).sql, asked) : null;
  if (!file) throw data(GONE, { status: 404 });
  return file;
}

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const { createdAt, ...file } = await fileOf(context, params.file);
  const [uses, zone] = await Promise.all([whereUsed(sql, file.file), zoneOf(context)]);
  return { file: { ...file, added: ago(createdAt, now, zone) }, uses };
}

const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("rename"), name: required("Give it a name.") }),
  z.object({ do: z.literal("delete") }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { services, sql, now } = at(context);
  const { file, name } = await fileOf(context, params.file);
  if (submission.value.do === "rename") {
    await renameFile(sql, file, submission.value.name);
    return submission.reply();
  }
  const [use] = await whereUsed(sql, file);
  if (use) {
    const formErrors = [`“${use.name}” links to it.`];
    return data(submission.reply({ formErrors }), 409);
  }
  const label = `The file “${name}”`;
  const removed = await services.database.tx((tx) => hideFile(tx, file, label, now));
  if (!removed) throw data(GONE, { status: 404 });
  return tellingRemoved("/library/files", removed);
}

export default function FilePage({ loaderData, actionData }: Route.ComponentProps) {
  const { file, uses } = loaderData;
  useTold(actionData, actionData?.status === "success", "Kept");
  return (
    <Page>
      <PageTitle
        title={file.name}
        about={
          <>
            <Link className="link" to="/library/files">
              Files
            </Link>{" "}
            · {fileSize(file.bytes)} · added {file.added}
          </>
        }
      />
      <FormErrors errors={actionData?.error?.[""]} />
      <Form method="post" className="flex max-w-lg items-end gap-2">
        <input type="hidden" name="do" value="rename" />
        <Field label="Name" errors={actionData?.error?.name} className="flex-1">
          {(own) => (
            <input
              {...own}
              name="name"
              key={file.name}
              defaultValue={file.name}
              className={INPUT}
            />
          )}
        </Field>
        <Button type="submit">Rename</Button>
      </Form>
      <p className="mt-1 text-small text-ink-3">
        Readers who keep the file keep it under this name. Emails that link to it need no change.
      </p>
      <p className="mt-3">
        <a className="link" href={filePath(file)} target="_blank" rel="noreferrer">
          Open it as a reader does
        </a>
      </p>
      <h2 className="mt-6 mb-1.5 text-lead italic">What links to it</h2>
      <Uses uses={uses} nowhere="Nothing yet." />
      <p className="mt-2 text-small text-ink-3">
        Emails that are sent go on leading to it, even when it is deleted here.
      </p>
      <Form method="post" className="mt-6">
        <input type="hidden" name="do" value="delete" />
        <Button type="submit" disabled={uses.length > 0}>
          Delete the file
        </Button>
      </Form>
    </Page>
  );
}
