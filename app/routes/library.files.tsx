/** Files that links in emails lead to: the list of them, and another. */
import { Link, useRevalidator } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { fileEnding } from "#core/text/index.ts";
import { countFiles, listFiles } from "#server/store/files.ts";
import { BringLinkedFile } from "../library/bring-linked-file.tsx";
import { at, paged, searchIn, zoneOf } from "../request.ts";
import { Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { useToast } from "../ui/toast.tsx";
import { ago, fileSize } from "../ui/words.ts";
import type { Route } from "./+types/library.files.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Files · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const url = new URL(request.url);
  const words = searchIn(url);
  const limit = LIMITS.filesPerPage;
  const { page, pages, from } = paged(url, await countFiles(sql, words), limit);
  const zone = await zoneOf(context);
  const files = (await listFiles(sql, { words, from, limit })).map(({ createdAt, ...one }) => ({
    ...one,
    added: ago(createdAt, now, zone),
  }));
  return { search: words, page, pages, files };
}

export default function Files({ loaderData }: Route.ComponentProps) {
  const { files, search, page, pages } = loaderData;
  const { revalidate } = useRevalidator();
  const say = useToast();
  return (
    <Page>
      <PageTitle
        title="Files"
        about="What links in emails can lead to beside pages: programmes, price lists, calendar entries."
      >
        {(pages > 1 || search) && (
          <SearchForm label="Search files" hint="Search by name" search={search} />
        )}
      </PageTitle>
      <div className="mb-4 w-96 max-md:w-full">
        <BringLinkedFile
          label="A file from this device"
          onBrought={({ name }) => {
            say(`“${name}” can be linked to.`);
            void revalidate();
          }}
        />
      </div>
      <Listing
        list={{ search, page, pages }}
        empty={files.length === 0}
        nothing={
          <Empty title="No files yet">Bring one here, or while linking words in an email.</Empty>
        }
      >
        <Table
          label="Files"
          rows={files}
          keyOf={(row) => row.file}
          columns={[
            {
              title: "Name",
              cell: (row) => (
                <Link to={row.file} className="font-semibold hover:underline">
                  {row.name}
                </Link>
              ),
            },
            { title: "Kind", cell: (row) => fileEnding(row.file)?.toUpperCase() },
            { title: "Added", cell: (row) => row.added },
            { title: "Size", right: true, cell: (row) => fileSize(row.bytes) },
          ]}
        />
      </Listing>
    </Page>
  );
}
