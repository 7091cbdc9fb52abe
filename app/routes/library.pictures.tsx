import { Trash2 } from "lucide-react";
import { data } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { countPictures, pictureName, pictureUses, searchPictures } from "#server/store/pictures.ts";
import { submissionOf } from "../form.ts";
import { removing } from "../removed.ts";
import { at, paged, searchIn } from "../request.ts";
import { IconButton } from "../ui/button.tsx";
import { FormErrors } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { count } from "../ui/words.ts";
import type { Route } from "./+types/library.pictures.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Library · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const found = await countPictures(sql, search);
  const { page, pages, from } = paged(url, found, LIMITS.picturesPerPage);
  return { ...(await searchPictures(sql, { words: search, from })), search, page, pages };
}

const schema = z.object({ picture: z.string().max(80) });

/** Takes a picture out of the library; sent emails keep its file. */
export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ problem: "Choose an image." }, 400);
  const { sql } = at(context);
  const { picture } = submission.value;
  const name = await pictureName(sql, picture);
  if (name === null) return data({ problem: "This image is gone." }, 404);
  const uses = await pictureUses(sql, picture);
  if (uses.length > 0) {
    return data({ problem: `“${name}” is used by ${uses.join(", ")}.` }, 409);
  }
  return removing(context, "pictures", picture, `The image “${name}”`, "/library");
}

export default function Pictures({ loaderData, actionData }: Route.ComponentProps) {
  const { pictures, total, search, page, pages } = loaderData;
  return (
    <Page>
      <PageTitle
        title="Images"
        about={total === 1 ? "1 image" : `${count(total)} images${search ? " found" : ""}`}
      >
        <SearchForm label="Search images" hint="Search by name" search={search} />
      </PageTitle>
      <FormErrors errors={actionData ? [actionData.problem] : null} />
      {pictures.length === 0 &&
        (search ? (
          <Empty title="No matches">Try fewer letters.</Empty>
        ) : (
          <Empty title="No images yet">
            Put an image block on a sheet and choose a file for it.
          </Empty>
        ))}
      <ul className="grid grid-cols-4 gap-4">
        {pictures.map((picture) => (
          <li key={picture.id} className="overflow-hidden rounded-md border bg-sheet">
            <div className="flex h-36 items-center justify-center bg-bench">
              <img
                src={`/pictures/${picture.file}`}
                alt=""
                className="max-h-full max-w-full"
                loading="lazy"
              />
            </div>
            <div className="flex items-center gap-2 border-t px-2.5 py-2">
              <div className="min-w-0 flex-1">
                <div className="truncate font-semibold">{picture.name}</div>
                <div className="text-small text-ink-3">
                  {picture.width} × {picture.height}
                </div>
              </div>
              <Form method="post">
                <input type="hidden" name="picture" value={picture.id} />
                <IconButton type="submit" label={`Delete ${picture.name}`}>
                  <Trash2 />
                </IconButton>
              </Form>
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
