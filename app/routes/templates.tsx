import { Link } from "react-router";
import { LIMITS } from "#core/limits.ts";
import { countTemplates, listTemplates } from "#server/store/templates.ts";
import { Look, lookOf } from "../desk/look.tsx";
import { at, paged, searchIn } from "../request.ts";
import { Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import type { Route } from "./+types/templates.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Templates · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const limit = LIMITS.templatesPerPage;
  const { page, pages, from } = paged(url, await countTemplates(sql, { search }), limit);
  const templates = await listTemplates(sql, { search, from, limit });
  return {
    search,
    page,
    pages,
    templates: templates.map((one) => ({ ...one, look: lookOf(one) })),
  };
}

export default function Templates({ loaderData }: Route.ComponentProps) {
  const { templates, search, page, pages } = loaderData;
  return (
    <Page>
      <PageTitle title="Templates" about="Emails to start from.">
        {(pages > 1 || search) && (
          <SearchForm label="Search templates" hint="Search by name" search={search} />
        )}
      </PageTitle>
      {templates.length === 0 && search && <Empty title="No matches">Try fewer letters.</Empty>}
      {templates.length === 0 && !search && (
        <Empty title="No template yet">Any earlier campaign can be started from as well.</Empty>
      )}
      <div className="grid grid-cols-3 gap-4">
        {templates.map((template) => (
          <article key={template.id} className="overflow-hidden rounded-md border bg-sheet">
            <Look src={template.look} />
            <div className="border-t px-3 py-2.5">
              <h2 className="text-title">{template.name}</h2>
              <p className="mt-0.5 text-small text-ink-2">{template.about}</p>
              <Link
                className="link mt-2 inline-block"
                to={`/campaigns/new?from=template:${template.id}`}
              >
                Start a campaign from it
              </Link>
            </div>
          </article>
        ))}
      </div>
      <Pager
        page={page}
        pages={pages}
        hrefOf={(to) => `?${new URLSearchParams({ search, page: String(to) })}`}
      />
    </Page>
  );
}
