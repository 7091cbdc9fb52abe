/** One import, from the file to the people: how it is read, what would happen, what happened. */
import { data, Link, redirect, useSearchParams } from "react-router";
import { z } from "zod";
import {
  type ImportOptions,
  importOptionsSchema,
  shapeSchema,
  targetsNow,
} from "#core/import/index.ts";
import { parseJson } from "#core/json.ts";
import { recordBook } from "#server/audience/field-values.ts";
import { analyse } from "#server/import/analyse.ts";
import { throwAway } from "#server/import/apply.ts";
import { importFile } from "#server/import/files.ts";
import { ImportError } from "#server/import/records.ts";
import { getSchema } from "#server/store/fields.ts";
import {
  getImport,
  getRefused,
  moveOn,
  optionsLike,
  refusedReasons,
  setOptions,
} from "#server/store/imports.ts";
import { enqueue } from "#server/store/jobs.ts";
import { destinationOf } from "#server/store/staging/destination.ts";
import { previewOf } from "#server/store/staging/preview.ts";
import { submissionOf } from "../form.ts";
import { KEY_LABELS, Mapping } from "../people/import/mapping.tsx";
import { Counts, Rows } from "../people/import/outcome.tsx";
import { BUSY, IMPORT_STATES } from "../people/import/states.ts";
import { at } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { FormErrors } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Page, PageTitle } from "../ui/page.tsx";
import { usePolling } from "../ui/polling.ts";
import { count, counted } from "../ui/words.ts";
import type { Route } from "./+types/people.import.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Import · Septima" }];

const optionsText = z.string().transform((text, ctx): ImportOptions => {
  const options = importOptionsSchema.safeParse(parseJson(text));
  if (options.success) return options.data;
  for (const { message } of options.error.issues) ctx.addIssue(message);
  return z.NEVER;
});
const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("check"), options: optionsText }),
  z.object({ do: z.literal("apply") }),
  z.object({ do: z.literal("again") }),
  z.object({ do: z.literal("undo") }),
  z.object({ do: z.literal("throw") }),
]);
const shapeQuery = shapeSchema
  .partial()
  .extend({ header: z.enum(["1", ""]).transform(Boolean).optional() });

async function importOf(context: Route.LoaderArgs["context"], id: string) {
  const found = await getImport(at(context).sql, id);
  if (!found) throw data("This import is gone.", { status: 404 });
  return found;
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const found = await importOf(context, params.import);
  const { fields, tables } = await getSchema(sql, found.table);
  const { key } = destinationOf(found.table);
  const busy = BUSY.includes(found.state);
  const shared = {
    found,
    key,
    into: tables.get(found.table)?.name ?? null,
    fields: [...fields.values()],
    mapping: null,
    preview: null,
    // While it is worked on, the page asks again and again how far it is, and for no more.
    refused: busy ? [] : await getRefused(sql, found.id, -1, 8),
    reasons: busy ? [] : await refusedReasons(sql, found.id),
    problem: found.problem,
  };
  if (found.state === "uploaded") {
    const set = shapeQuery.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    try {
      const file = importFile(services.imports.folder, found.id);
      const analysis = await analyse(
        file,
        found.name,
        fields,
        key,
        set.data ?? found.options?.shape,
      );
      const names = analysis.columns.map(({ name }) => name);
      const chosen = found.options ?? (await optionsLike(sql, found.table, names));
      const { targets } = analysis;
      const options =
        chosen?.columns.length === targets.length
          ? { ...chosen, columns: targetsNow(chosen.columns, targets, fields) }
          : chosen;
      return { ...shared, mapping: { analysis, options } };
    } catch (error) {
      if (!(error instanceof ImportError)) throw error;
      return { ...shared, problem: error.message };
    }
  }
  if (found.state === "checked") {
    const book = await recordBook(sql, fields, tables);
    return { ...shared, preview: await previewOf(sql, found, fields, book) };
  }
  return shared;
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, services, now } = at(context);
  const submission = await submissionOf(request, schema);
  const found = await importOf(context, params.import);
  if (submission.status !== "success") {
    const errors = Object.values(submission.error ?? {}).flatMap((messages) => messages ?? []);
    return data({ problems: errors }, 400);
  }
  const { id } = found;
  const asked = submission.value;
  const go = async (
    from: Parameters<typeof moveOn>[2],
    to: Parameters<typeof moveOn>[3],
    job: string,
  ) => {
    const moved = await services.database.tx(async (tx) => {
      if (!(await moveOn(tx, id, from, to))) return false;
      await enqueue(tx, job, { id }, now);
      return true;
    });
    if (moved) services.wake();
  };
  switch (asked.do) {
    case "check": {
      const { fields } = await getSchema(sql, found.table);
      const { key } = destinationOf(found.table);
      if (!asked.options.columns.some(({ to }) => to === key)) {
        const missing = "Choose the column that says whom or what each row is about.";
        return data({ problems: [missing] }, 400);
      }
      const file = importFile(services.imports.folder, id);
      const { columns } = await analyse(file, found.name, fields, key, asked.options.shape);
      await setOptions(
        sql,
        id,
        asked.options,
        columns.map(({ name }) => name),
      );
      await go(["uploaded"], "checking", "checkImport");
      break;
    }
    case "apply":
      if (found.refused > 0 && found.options?.refused === "nothing") {
        return data({ problems: ["Some rows are refused, and then nothing is imported."] }, 409);
      }
      await go(["checked"], "applying", "applyImport");
      break;
    case "again":
      await moveOn(sql, id, ["checked", "failed"], "uploaded");
      break;
    case "undo":
      await go(found.applied >= 0 ? ["done", "failed"] : ["done"], "undoing", "undoImport");
      break;
    case "throw":
      await throwAway(services, id);
      return redirect("/people/imports");
  }
  return data({ problems: [] as string[] });
}

function Act({ what, children, primary }: { what: string; children: string; primary?: boolean }) {
  return (
    <Form method="post">
      <Button type="submit" name="do" value={what} primary={primary}>
        {children}
      </Button>
    </Form>
  );
}

/** How long the page rests before it asks how far the work is, ms. */
const ASK_MS = 600;

export default function Import({ loaderData, actionData }: Route.ComponentProps) {
  const { found, into, mapping, preview, refused, reasons, fields, problem } = loaderData;
  const keyLabel = KEY_LABELS[loaderData.key];
  const [params, setParams] = useSearchParams();
  const busy = BUSY.includes(found.state);
  usePolling(busy ? ASK_MS : null);
  const labels = Object.fromEntries([...fields, ...found.newFields].map((f) => [f.id, f.label]));
  const stops = found.refused > 0 && found.options?.refused === "nothing";
  return (
    <Page wide>
      <PageTitle
        title={found.name}
        about={
          <>
            <Chip tone={IMPORT_STATES[found.state].tone}>{IMPORT_STATES[found.state].label}</Chip>
            {into && ` into ${into}`}
          </>
        }
      />
      <FormErrors errors={mapping ? null : actionData?.problems} />
      {problem && <FormErrors errors={[problem]} />}
      {mapping && (
        <Mapping
          key={JSON.stringify(mapping.analysis.shape)}
          {...mapping}
          fields={fields}
          keyTarget={loaderData.key}
          problems={actionData?.problems ?? []}
          onShape={(shape) => {
            const next = new URLSearchParams(params);
            for (const [key, value] of Object.entries({ ...mapping.analysis.shape, ...shape })) {
              next.set(key, value === true ? "1" : value === false ? "" : value);
            }
            setParams(next, { replace: true });
          }}
        />
      )}
      {busy && (
        <p role="status" className="font-display text-head" data-progress>
          {found.state === "checking"
            ? `Reading: ${counted(found.read, "row")} so far…`
            : found.state === "applying"
              ? `Importing: ${count(Math.max(0, found.applied))} of ${counted(found.read, "row")} so far…`
              : "Undoing…"}
        </p>
      )}
      {["checked", "done", "undone"].includes(found.state) && <Counts {...found} />}
      {preview && (
        <>
          <Rows title="New" keyLabel={keyLabel} rows={preview.added} labels={labels} />
          <Rows title="Changed" keyLabel={keyLabel} rows={preview.changed} labels={labels} />
        </>
      )}
      {found.refused + found.leftOut > 0 && !busy && (
        <section aria-label="Refused" className="mb-6">
          <h2 className="mb-1 text-head">What could not be read</h2>
          <ul className="mb-2">
            {reasons.map(({ reason, n }) => (
              <li key={reason} className="border-b py-1">
                <span className="mr-2 inline-block w-14 text-right font-display text-lead">
                  {count(n)}
                </span>
                {reason}
              </li>
            ))}
          </ul>
          <ul className="mb-3 text-small text-ink-2">
            {refused.map((row) => (
              <li key={row.line}>
                Row {row.line}
                {row.taken && ", imported without it"}: {row.reason}
              </li>
            ))}
          </ul>
          <Buttonlike asChild>
            <Link to="refused.csv" reloadDocument>
              Download these rows
            </Link>
          </Buttonlike>
        </section>
      )}
      <div className="flex gap-2">
        {found.state === "checked" && !stops && (
          <Act what="apply" primary>
            Import them
          </Act>
        )}
        {stops && (
          <p className="self-center font-semibold text-rust">
            Some rows are refused, so nothing is imported. Mend the file, or leave them out.
          </p>
        )}
        {(found.state === "checked" || (found.state === "failed" && found.options)) && (
          <Act what="again">Change the columns</Act>
        )}
        {["checked", "failed"].includes(found.state) && <Act what="throw">Discard it</Act>}
        {found.state === "uploaded" && !mapping && <Act what="throw">Discard it</Act>}
        {(found.state === "done" || (found.state === "failed" && found.applied >= 0)) && (
          <Act what="undo">Undo the import</Act>
        )}
      </div>
    </Page>
  );
}
