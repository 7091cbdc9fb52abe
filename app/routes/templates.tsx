import { Link } from "react-router";
import { listTemplates } from "#server/store/campaigns.ts";
import { loadDocument } from "#server/store/documents.ts";
import { miniature } from "../desk/draw.ts";
import { Miniature } from "../desk/miniature.tsx";
import { at } from "../request.ts";
import { Empty, Page, PageTitle } from "../ui/page.tsx";
import type { Route } from "./+types/templates.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Templates · Septima" }];

export async function loader({ context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const templates = await listTemplates(sql);
  return {
    templates: await Promise.all(
      templates.map(async (template) => ({
        ...template,
        bands: miniature((await loadDocument(sql, template.documentId))!.doc),
      })),
    ),
  };
}

export default function Templates({ loaderData }: Route.ComponentProps) {
  return (
    <Page>
      <PageTitle title="Templates" about="Emails to start from." />
      {loaderData.templates.length === 0 && (
        <Empty title="No template yet">Any earlier campaign can be started from as well.</Empty>
      )}
      <div className="grid grid-cols-3 gap-4">
        {loaderData.templates.map((template) => (
          <article key={template.id} className="overflow-hidden rounded-md border bg-sheet">
            <Miniature bands={template.bands} />
            <div className="border-t px-3 py-2.5">
              <h2 className="text-title">{template.name}</h2>
              <p className="mt-0.5 text-small text-ink-2">{template.about}</p>
              <Link
                className="link mt-2 inline-block"
                to={`/campaigns/new?template=${template.id}`}
              >
                Start a campaign from it
              </Link>
            </div>
          </article>
        ))}
      </div>
    </Page>
  );
}
