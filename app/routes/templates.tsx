import { Ellipsis } from "lucide-react";
import { data, Link, useSubmit } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { CATEGORIES, isCategory } from "#core/templates/categories.ts";
import {
  countTemplates,
  getTemplate,
  listTemplates,
  startedCounts,
} from "#server/store/templates.ts";
import { Look, lookOf } from "../desk/look.tsx";
import { submissionOf } from "../form.ts";
import { removing } from "../removed.ts";
import { at, paged, searchIn } from "../request.ts";
import { IconButton } from "../ui/button.tsx";
import { Menu } from "../ui/menu.tsx";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { SearchForm } from "../ui/search.tsx";
import { counted } from "../ui/words.ts";
import type { Route } from "./+types/templates.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Templates · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const limit = LIMITS.templatesPerPage;
  const { page, pages, from } = paged(url, await countTemplates(sql, { search, all: true }), limit);
  const templates = await listTemplates(sql, { search, all: true, from, limit });
  const started = await startedCounts(
    sql,
    templates.map(({ id }) => id),
  );
  return {
    search,
    page,
    pages,
    templates: templates.map((one) => ({
      ...one,
      look: lookOf(one),
      started: started.get(one.id) ?? 0,
    })),
  };
}

const schema = z.object({ remove: z.string().max(80) });

/** Takes a template out; what was started from it stays as it is. */
export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data({ problem: "Choose a template." }, 400);
  const template = await getTemplate(at(context).sql, submission.value.remove);
  if (!template) return data({ problem: "This template is gone." }, 404);
  const { pathname, search } = new URL(request.url);
  const label = `The template “${template.name}”`;
  return removing(context, "templates", template.id, label, `${pathname}${search}`);
}

export default function Templates({ loaderData }: Route.ComponentProps) {
  const { templates, search, page, pages } = loaderData;
  const submit = useSubmit();
  return (
    <Page>
      <PageTitle
        title="Templates"
        about="Emails to start from. Any campaign can be saved as one, from its menu."
      >
        <Link className="link text-small" to="/campaigns/new/arrive?as=file">
          From a file
        </Link>
        {(pages > 1 || search || templates.length > 6) && (
          <SearchForm label="Search templates" hint="Search by name" search={search} />
        )}
      </PageTitle>
      {templates.length === 0 && search && <Empty title="No matches">Try fewer letters.</Empty>}
      {templates.length === 0 && !search && (
        <Empty title="No template yet">Any earlier campaign can be started from as well.</Empty>
      )}
      <div className="grid grid-cols-3 gap-4 max-md:grid-cols-1">
        {templates.map((template) => (
          <article key={template.id} className="overflow-hidden rounded-md border bg-sheet">
            <Look src={template.look} />
            <div className="border-t px-3 py-2.5">
              <div className="flex items-center gap-2">
                <h2 className="min-w-0 flex-1 truncate text-title">
                  <Link to={`/templates/${template.id}`} className="hover:underline">
                    {template.name}
                  </Link>
                </h2>
                {isCategory(template.category) && <Chip>{CATEGORIES[template.category]}</Chip>}
                <Menu
                  trigger={
                    <IconButton label={`More about ${template.name}`}>
                      <Ellipsis />
                    </IconButton>
                  }
                  items={() => [
                    {
                      label: "Download (Septima file)",
                      onChoose: () => window.location.assign(`/templates/${template.id}/file`),
                    },
                    {
                      label: "Delete",
                      onChoose: () => void submit({ remove: template.id }, { method: "post" }),
                    },
                  ]}
                />
              </div>
              <p className="mt-0.5 text-small text-ink-2">{template.about}</p>
              {template.started > 0 && (
                <p className="mt-0.5 text-small text-ink-3">
                  {counted(template.started, "campaign was", "campaigns were")} started from it
                </p>
              )}
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
