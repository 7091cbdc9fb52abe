/** One image of the library: what it shows, where it stands, what can be done with it. */
import { useState } from "react";
import { data, Link } from "react-router";
import { z } from "zod";
import { PICTURE_ID } from "#core/picture-id.ts";
import { replaceEverywhere } from "#server/campaigns/replacing.ts";
import { originalOf } from "#server/images/editing.ts";
import { listFolders } from "#server/store/picture-folders.ts";
import { alikePictures, getPicture, madeFrom, sayOfPicture } from "#server/store/pictures.ts";
import { whereUsed } from "#server/store/uses.ts";
import { submissionOf } from "../form.ts";
import { Uses } from "../library/uses.tsx";
import { PictureEditor } from "../pictures/editor.tsx";
import { Keeping } from "../pictures/keeping.tsx";
import { REPLACED_BEFORE, type Replaced } from "../pictures/replaced.ts";
import { Saying, sayingSchema } from "../pictures/saying.tsx";
import { Others, ReplacedNote, Replacing } from "../pictures/standing.tsx";
import { removing } from "../removed.ts";
import { at } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { FormErrors } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { usePut } from "../ui/put.ts";
import { Segmented } from "../ui/segmented.tsx";
import { useTold } from "../ui/toast.tsx";
import { fileSize } from "../ui/words.ts";
import type { Route } from "./+types/library.picture.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.picture.name ?? "Image"} · Septima` },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const picture = await getPicture(sql, params.picture);
  if (!picture) throw data("This image is gone.", { status: 404 });
  const [from, uses, alike, made, folders, by] = await Promise.all([
    originalOf(services, picture),
    whereUsed(sql, picture.id),
    alikePictures(sql, picture.id),
    madeFrom(sql, picture.id),
    listFolders(sql),
    picture.replacedBy ? getPicture(sql, picture.replacedBy) : null,
  ]);
  return { picture, ...from, uses, alike, made, folders, by };
}

const schema = z.discriminatedUnion("do", [
  sayingSchema,
  z.object({
    do: z.literal("replace"),
    by: z.string().regex(PICTURE_ID),
    seen: z.string().regex(PICTURE_ID).optional(),
  }),
  z.object({ do: z.literal("delete") }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  const said = (problem: string | null, replaced: Replaced | null = null) => ({
    ...{ result: submission.reply(), problem, replaced },
  });
  if (submission.status !== "success") return data(said(null), 400);
  const asked = submission.value;
  const { services, sql, member } = at(context);
  const picture = await getPicture(sql, params.picture);
  if (!picture) return data(said("This image is gone."), 404);
  switch (asked.do) {
    case "say": {
      const { name, alt, decorative, folder, x, y } = asked;
      const known = folder === "" || (await listFolders(sql)).some(({ id }) => id === folder);
      if (!known) return data(said("This folder is gone."), 409);
      const focus = x === 50 && y === 50 ? null : { x, y };
      await sayOfPicture(sql, picture.id, {
        ...{ name, alt, decorative, labels: asked.labels, focus, folder: folder || null },
      });
      return said(null);
    }
    case "replace": {
      const by = await getPicture(sql, asked.by);
      if (!by || by.id === picture.id) return data(said("Choose another image."), 400);
      const replaced = await replaceEverywhere(services, {
        ...{ from: picture.id, to: by.id, seen: asked.seen ?? null, member },
      });
      return replaced ? said(null, replaced) : data(said(REPLACED_BEFORE), 409);
    }
    case "delete": {
      const uses = await whereUsed(sql, picture.id);
      if (uses.length > 0) {
        const names = uses.slice(0, NAMED).map(({ name }) => `“${name}”`);
        return data(said(`“${picture.name}” stands in ${names.join(", ")}.`), 409);
      }
      return removing(context, "pictures", picture.id, `The image “${picture.name}”`, "/library");
    }
  }
}

/** How many places are named where it cannot be deleted. */
const NAMED = 5;

function About({
  loaderData,
  actionData,
}: Pick<Route.ComponentProps, "loaderData" | "actionData">) {
  const { picture, folders, uses, alike, made, by } = loaderData;
  return (
    <div className="flex gap-8 max-md:flex-col">
      <div className="w-[26rem] flex-none max-md:w-full">
        <Saying picture={picture} folders={folders} result={actionData?.result} key={picture.id} />
      </div>
      <div className="min-w-0 flex-1">
        {by && (
          <p role="status" className="mb-4 rounded-md bg-saffron-soft p-2.5 text-saffron-ink">
            {picture.replacedWho ?? "Somebody"} put{" "}
            <Link className="link" to={`/library/image/${by.id}`}>
              {by.name}
            </Link>{" "}
            in its place.
          </p>
        )}
        {actionData?.replaced && <ReplacedNote replaced={actionData.replaced} />}
        <h2 className="mb-1.5 text-lead italic">Used in</h2>
        <Uses uses={uses} />
        {uses.length > 0 && <Replacing picture={picture} uses={uses} key={uses.length} />}
        <p className="mt-2 text-small text-ink-3">Emails that are sent stay as they are.</p>
        {picture.file.endsWith(".gif") && (
          <figure className="mt-5">
            <img
              src={`/library/image/${picture.id}/first`}
              alt={`The first frame of ${picture.name}`}
              className="max-h-40 rounded-md border bg-bench"
            />
            <figcaption className="mt-1 text-small text-ink-3">
              Its first frame: some mail programs show no other.
            </figcaption>
          </figure>
        )}
        <Others title="Looks alike" pictures={alike} />
        <Others title="Made from it" pictures={made} />
        <Form method="post" className="mt-6">
          <input type="hidden" name="do" value="delete" />
          <Button type="submit" disabled={uses.length > 0}>
            Delete the image
          </Button>
        </Form>
      </div>
    </div>
  );
}

export default function PicturePage({ loaderData, actionData }: Route.ComponentProps) {
  const said = actionData?.result.status === "success" && !actionData.problem;
  useTold(actionData, said && !actionData.replaced, "Kept");
  const { picture, original, recipe } = loaderData;
  const put = usePut();
  const still = !picture.file.endsWith(".gif");
  const [view, setView] = useState<"about" | "edit">("about");
  const show = (next: "about" | "edit") => {
    setView(next);
    put("do", next === "edit" ? "edit" : null);
  };
  return (
    <Page wide>
      <PageTitle
        title={picture.name}
        about={
          <>
            <Link className="link" to="/library">
              Images
            </Link>{" "}
            · {picture.width} × {picture.height}
            {picture.bytes ? ` · ${fileSize(picture.bytes)}` : ""}
          </>
        }
      >
        {still && (
          <Segmented
            label="View"
            value={view}
            options={[
              { value: "about", label: "Details" },
              { value: "edit", label: "Edit" },
            ]}
            onChange={show}
          />
        )}
      </PageTitle>
      <FormErrors errors={actionData?.problem ? [actionData.problem] : null} />
      {view === "about" ? (
        <About loaderData={loaderData} actionData={actionData} />
      ) : (
        <PictureEditor key={picture.id} original={original} initial={recipe}>
          {(ready, changed) => (
            <Keeping
              recipe={ready}
              changed={changed}
              picture={picture}
              places={loaderData.uses.length}
            />
          )}
        </PictureEditor>
      )}
    </Page>
  );
}
