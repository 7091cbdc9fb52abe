import { listPictures } from "#server/store/pictures.ts";
import { at } from "../request.ts";
import { Empty, Page, PageTitle } from "../ui/page.tsx";
import type { Route } from "./+types/library.pictures.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Library · Septima" }];

export const loader = async ({ context }: Route.LoaderArgs) => ({
  pictures: await listPictures(at(context).sql),
});

export default function Pictures({ loaderData }: Route.ComponentProps) {
  const { pictures } = loaderData;
  return (
    <Page>
      <PageTitle title="Pictures" about="Used in emails. They are uploaded while composing." />
      {pictures.length === 0 && (
        <Empty title="No pictures yet">
          Put an image block on a sheet and choose a file for it.
        </Empty>
      )}
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
            <div className="border-t px-2.5 py-2">
              <div className="truncate font-semibold">{picture.name}</div>
              <div className="text-small text-ink-3">
                {picture.width} × {picture.height}
              </div>
            </div>
          </li>
        ))}
      </ul>
    </Page>
  );
}
