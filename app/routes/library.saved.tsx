/** Saved blocks and bands: found, renamed, deleted. They are put into emails from the tray. */
import { Download, Trash2 } from "lucide-react";
import { data, useRevalidator } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { countSaved, getSaved, listSaved, renameSaved } from "#server/store/saved.ts";
import { Look } from "../desk/look.tsx";
import { submissionOf } from "../form.ts";
import { removing } from "../removed.ts";
import { at, paged, searchIn } from "../request.ts";
import { BringFile } from "../ui/bring-file.tsx";
import { Button, IconButton } from "../ui/button.tsx";
import { FormErrors, INPUT } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { useToast } from "../ui/toast.tsx";
import type { Route } from "./+types/library.saved.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Saved blocks · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const url = new URL(request.url);
  const words = searchIn(url);
  const limit = LIMITS.savedPerPage;
  const { page, pages, from } = paged(url, await countSaved(sql, words), limit);
  const saved = await listSaved(sql, { words, from, limit });
  return {
    ...{ search: words, page, pages },
    saved: saved.map(({ nodes, ...one }) => ({ ...one, pieces: nodes.length })),
  };
}

const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("delete"), saved: z.string().max(80) }),
  z.object({
    do: z.literal("rename"),
    saved: z.string().max(80),
    name: required("Give it a name."),
  }),
]);

export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") {
    return data({ problem: "Give it a name." }, 400);
  }
  const asked = submission.value;
  const { sql } = at(context);
  const saved = await getSaved(sql, asked.saved);
  if (!saved || saved.ships) return data({ problem: "This is gone." }, 404);
  if (asked.do === "delete") {
    return removing(context, "saved_blocks", saved.id, `“${saved.name}”`, "/library/saved");
  }
  await renameSaved(sql, saved.id, asked.name);
  return { problem: null };
}

export default function SavedBlocks({ loaderData, actionData }: Route.ComponentProps) {
  const { saved, search, page, pages } = loaderData;
  const { revalidate } = useRevalidator();
  const say = useToast();
  return (
    <Page>
      <PageTitle
        title="Saved blocks"
        about="Blocks and bands to be put into any email, from the tray under its sheets: as copies, or linked, so that they change everywhere."
      >
        <SearchForm label="Search saved blocks" hint="Search by name" search={search} />
      </PageTitle>
      <FormErrors errors={actionData?.problem ? [actionData.problem] : null} />
      <div className="mb-4 w-80 max-md:w-full">
        <BringFile<{ id: string }>
          to="/library/saved/brought"
          label="Import one from a file"
          hint="A file downloaded from another Septima."
          accept=".json,application/json"
          most={LIMITS.foreignUpload}
          onBrought={() => {
            say("It is among your saved blocks.");
            void revalidate();
          }}
        />
      </div>
      {saved.length === 0 && <Empty title="No matches">Try fewer letters.</Empty>}
      <ul className="grid grid-cols-3 gap-4 max-md:grid-cols-1">
        {saved.map(({ id, name, kind, pieces, ships }) => (
          <li key={id} className="overflow-hidden rounded-md border bg-sheet">
            <Look src={`/library/saved/${id}/look`} scale={0.44} height={150} />
            <div className="flex items-center gap-2 border-t px-3 py-2.5">
              {ships ? (
                <h2 className="min-w-0 flex-1 truncate text-body font-semibold">{name}</h2>
              ) : (
                <Form method="post" className="flex min-w-0 flex-1 gap-1.5">
                  <input type="hidden" name="do" value="rename" />
                  <input type="hidden" name="saved" value={id} />
                  <input
                    key={name}
                    name="name"
                    aria-label={`Name of ${name}`}
                    defaultValue={name}
                    className={`${INPUT} min-w-0 flex-1`}
                  />
                  <Button type="submit">Rename</Button>
                </Form>
              )}
              <Chip>{ships ? "ready-made" : pieces === 1 ? kind : `${pieces} ${kind}s`}</Chip>
              <a
                href={`/library/saved/${id}/file`}
                aria-label={`Download ${name}`}
                title="Download (Septima file)"
                className="rounded p-1 text-ink-2 hover:bg-bench hover:text-plum"
              >
                <Download className="size-4" />
              </a>
              {!ships && (
                <Form method="post">
                  <input type="hidden" name="do" value="delete" />
                  <input type="hidden" name="saved" value={id} />
                  <IconButton type="submit" label={`Delete ${name}`}>
                    <Trash2 />
                  </IconButton>
                </Form>
              )}
            </div>
          </li>
        ))}
      </ul>
      <Pager
        page={page}
        pages={pages}
        hrefOf={(to) => `?${new URLSearchParams({ search, page: String(to) })}`}
      />
    </Page>
  );
}
