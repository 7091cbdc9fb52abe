/** Derived tags: the list of them. */
import { Plus } from "lucide-react";
import { Link } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { derivedUses, getDerived } from "#server/store/derived.ts";
import { KIND_NAMES } from "../library/derived-kinds.ts";
import { at, late, listed } from "../request.ts";
import { Buttonlike } from "../ui/button.tsx";
import { Later } from "../ui/later.tsx";
import { Empty, Listing, Page, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import type { Route } from "./+types/library.derived.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Derived tags · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const all = [...(await getDerived(sql)).values()];
  const { shown, ...list } = listed(new URL(request.url), all, LIMITS.sourcesPerPage);
  return {
    ...list,
    tags: shown.map(({ id, name, kind, cases }) => ({
      id,
      name,
      kind: KIND_NAMES[kind],
      cases: cases.length,
    })),
    // All emails that are not sent are looked through for it.
    uses: late(context, () => derivedUses(sql)),
  };
}

export default function Derived({ loaderData }: Route.ComponentProps) {
  const { tags, uses, search, page, pages } = loaderData;
  return (
    <Page>
      <PageTitle
        title="Derived tags"
        about="Merge tags whose value is chosen by rules: the name of the nearest site, the person who signs."
      >
        {(pages > 1 || search) && (
          <SearchForm label="Search derived tags" hint="Search by name" search={search} />
        )}
        <Buttonlike asChild primary>
          <Link to="new">
            <Plus className="size-4" /> New derived tag
          </Link>
        </Buttonlike>
      </PageTitle>
      <Listing
        list={{ search, page, pages }}
        empty={tags.length === 0}
        nothing={
          <Empty title="No derived tags yet">
            Make one when a word, a link or a sender depends on who reads.
          </Empty>
        }
      >
        <Table
          label="Derived tags"
          rows={tags}
          keyOf={(row) => row.id}
          columns={[
            {
              title: "Name",
              cell: (row) => (
                <Link to={row.id} className="font-semibold hover:underline">
                  {row.name}
                </Link>
              ),
            },
            { title: "Gives", cell: (row) => row.kind },
            { title: "Cases", right: true, cell: (row) => row.cases },
            {
              title: "Used by",
              cell: (row) => <Later of={uses}>{(by) => by.get(row.id)?.join(", ") || "–"}</Later>,
            },
          ]}
        />
      </Listing>
    </Page>
  );
}
