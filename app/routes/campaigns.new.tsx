import { data, redirect } from "react-router";
import { z } from "zod";
import { canonical, fingerprint } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import type { Theme } from "#core/theme/theme.ts";
import { weightOf } from "#server/campaigns/emails.ts";
import { inTheme as inThemeOf } from "#server/campaigns/looks.ts";
import {
  findStart,
  offeredThemes,
  proposedName,
  startCampaign,
  startSchema,
  themeNamed,
} from "#server/campaigns/starting.ts";
import { required } from "#server/forms.ts";
import { countCampaigns, listCampaigns } from "#server/store/campaigns.ts";
import { getSettings, type Settings } from "#server/store/settings.ts";
import {
  countTemplates,
  keepTemplate,
  keptAmong,
  listTemplates,
  templateCounts,
} from "#server/store/templates.ts";
import { lookOf } from "../desk/look.tsx";
import { submissionOf } from "../form.ts";
import { at, late, paged, searchIn } from "../request.ts";
import { hrefOf, type Shown, shownAt } from "../starting/address.ts";
import { Chosen, type ChosenStart } from "../starting/chosen.tsx";
import { Gallery } from "../starting/gallery.tsx";
import { Ways } from "../starting/ways.tsx";
import { Empty, Pager } from "../ui/page.tsx";
import type { Route } from "./+types/campaigns.new.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Start a campaign · Septima" }];

const schema = z.object({
  name: required("Give it a name that you will find again."),
  from: startSchema,
  theme: z.string().max(40).default("own"),
});
const keepSchema = z.object({
  template: z.string().max(80),
  keep: z.enum(["yes", "no"]),
});

/** What is to be chosen from, a page of it. */
async function offered(
  sql: ReturnType<typeof at>["sql"],
  { show, search, category }: Shown,
  member: string,
  url: URL,
) {
  if (show === "earlier") {
    const limit = LIMITS.templatesPerPage;
    const pages = paged(url, await countCampaigns(sql, { search }), limit);
    const found = await listCampaigns(sql, { search, from: pages.from, limit });
    const items = found.map((one) => ({
      ...one,
      from: `campaign:${one.id}`,
      about: "",
      kept: null,
    }));
    return { ...pages, items };
  }
  const filter = {
    search,
    category: show === "blank" ? ("bare" as const) : category === "kept" ? null : category,
    keptBy: category === "kept" ? member : null,
  };
  const limit = LIMITS.templatesPerPage;
  const pages = paged(url, await countTemplates(sql, filter), limit);
  const found = await listTemplates(sql, { ...filter, from: pages.from, limit });
  const kept = await keptAmong(
    sql,
    member,
    found.map(({ id }) => id),
  );
  const items = found.map((one) => ({
    ...one,
    from: `template:${one.id}`,
    kept: kept.has(one.id),
  }));
  return { ...pages, items };
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, member } = at(context);
  const url = new URL(request.url);
  const asked = shownAt(url, searchIn(url));
  const settings = await getSettings(sql);
  const found = await offered(sql, asked, member.id, url);
  const from = asked.from ?? (asked.show === "blank" ? "blank" : (found.items[0]?.from ?? null));
  // Templates come in the brand's looks; what somebody wrote keeps its own until another is chosen.
  const theme = asked.theme || (from?.startsWith("campaign:") ? "own" : "brand");
  const shown = { ...asked, theme };
  const inTheme = await themeNamed(sql, theme);
  // Not by its name: what the brand changes in its theme is seen at once.
  const seenIn = inTheme && { key: theme, state: fingerprint(canonical(inTheme)) };
  return {
    shown,
    counts: await templateCounts(sql, member.id),
    themes: (await offeredThemes(sql)).map(({ key, theme: { name: label, colours } }) => ({
      key,
      label,
      colours: [colours.accent, colours.tint, colours.line],
    })),
    page: found.page,
    pages: found.pages,
    items: found.items.map(({ from: key, id, name, about, kept, ...one }) => ({
      ...{ from: key, id, name, about, kept },
      look: lookOf(one, asked.show === "earlier" ? null : seenIn),
    })),
    chosen: from === null ? null : await chosenOf(context, settings, from, inTheme, seenIn),
  };
}

/** What is chosen, as it is shown large. */
async function chosenOf(
  context: Route.LoaderArgs["context"],
  { sender }: Settings,
  from: string,
  theme: Theme | null,
  seenIn: Parameters<typeof lookOf>[1],
): Promise<ChosenStart> {
  const { sql, services, now } = at(context);
  const start = from === "blank" ? null : await findStart(sql, from);
  const ready = start && "doc" in start ? start : null;
  return {
    from,
    name: ready?.name ?? (from === "blank" ? "A blank email" : null),
    trouble: start && "trouble" in start ? start.trouble : null,
    about: ready?.about ?? "Only the footer stands, because every email needs one.",
    look: ready && lookOf(ready, seenIn),
    bands: ready?.doc.root.children.length ?? 1,
    bytes: ready && late(context, () => weightOf(services, inThemeOf(ready.doc, theme))),
    proposed: proposedName(ready?.name ?? "Campaign", now, sender),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const { sql, services, now, member } = at(context);
  const form = await request.clone().formData();
  if (form.has("keep")) {
    const asked = await submissionOf(request, keepSchema);
    if (asked.status !== "success") return data(asked.reply(), 400);
    const { template, keep } = asked.value;
    const done = await keepTemplate(sql, member.id, template, keep === "yes");
    if (done) return asked.reply();
    return data(asked.reply({ formErrors: ["This template is gone."] }), 404);
  }
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { name, from, theme } = submission.value;
  const start = from === "blank" ? null : await findStart(sql, from);
  const gone = start === null && from !== "blank";
  if (gone || (start && "trouble" in start)) {
    const problem = start?.trouble ?? "That is gone.";
    return data(submission.reply({ fieldErrors: { from: [problem] } }), 400);
  }
  const id = await services.database.tx((tx) => startCampaign(tx, { name, start, theme }, now));
  return redirect(`/campaigns/${id}`);
}

export default function NewCampaign({ loaderData, actionData }: Route.ComponentProps) {
  const { shown, items, page, pages, chosen } = loaderData;
  return (
    <main className="grid min-h-[calc(100vh-49px)] grid-cols-[1fr_420px] max-lg:grid-cols-1">
      <div className="min-w-0 px-8 py-6 max-md:px-4">
        <h1 className="mb-3 text-display leading-tight">Start a campaign</h1>
        <Ways data={loaderData} />
        {items.length === 0 && shown.show !== "blank" && (
          <Empty title={shown.search || shown.category ? "No matches" : "Nothing here yet"}>
            {shown.category === "kept"
              ? "Mark a template with its heart, and it is kept here."
              : "Try fewer letters, or begin with a blank email."}
          </Empty>
        )}
        <Gallery items={items} shown={shown} chosen={chosen?.from ?? null} />
        <Pager
          page={page}
          pages={pages}
          hrefOf={(to) => `${hrefOf(shown, { from: null })}&page=${to}`}
        />
      </div>
      <div className="border-l bg-bench max-lg:border-t max-lg:border-l-0">
        {chosen && (
          <Chosen key={chosen.from} chosen={chosen} theme={shown.theme} result={actionData} />
        )}
      </div>
    </main>
  );
}
