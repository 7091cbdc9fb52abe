/** One template: what it is called, and its change carried into campaigns that were started from it. */
import { getFormProps, useForm } from "@conform-to/react";
import { getZodConstraint } from "@conform-to/zod/v4";
import { useState } from "react";
import { data, Link } from "react-router";
import { z } from "zod";
import { EditError } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { CATEGORIES, type Category } from "#core/templates/categories.ts";
import { campaignsBehind, carryInto, changeTemplate } from "#server/campaigns/carrying.ts";
import { required } from "#server/forms.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { liftsHolds } from "#server/store/team.ts";
import { getTemplate, renameTemplate, startedCampaigns } from "#server/store/templates.ts";
import { Look, lookOf } from "../desk/look.tsx";
import { submissionOf } from "../form.ts";
import { at, late } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { Field, FormErrors, SelectField, TextField } from "../ui/field.tsx";
import { Form } from "../ui/form.tsx";
import { Later } from "../ui/later.tsx";
import { Chip, Page, PageTitle } from "../ui/page.tsx";
import { named, Select } from "../ui/select.tsx";
import { useTold } from "../ui/toast.tsx";
import { counted } from "../ui/words.ts";
import type { Route } from "./+types/template.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: `${loaderData?.template.name ?? "Template"} · Septima` },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, member } = at(context);
  const template = await getTemplate(sql, params.template);
  if (!template) throw data("This template is gone.", { status: 404 });
  return {
    template,
    started: (await startedCampaigns(sql, template.id)).map(({ id, name }) => ({ id, name })),
    behind: late(context, () => campaignsBehind(sql, template)),
    mayChange: liftsHolds(member),
  };
}

const sayingSchema = z.object({
  do: z.literal("say"),
  name: required("Give it a name that the team will find it by."),
  about: z.string().trim().max(LIMITS.nameLength, "This is too long.").default(""),
  category: z.enum(Object.keys(CATEGORIES) as [Category, ...Category[]]),
});
const schema = z.discriminatedUnion("do", [
  sayingSchema,
  z.object({ do: z.literal("change"), campaign: z.string("Choose a campaign.").max(40) }),
  z.object({
    do: z.literal("carry"),
    campaigns: z.array(z.string().max(40), "Choose a campaign.").max(LIMITS.carriedAtOnce),
  }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  const nobody: Awaited<ReturnType<typeof carryInto>> = { done: [], left: [] };
  const said = (problem: string | null, carried = nobody) => ({
    ...{ result: submission.reply(), problem, carried },
  });
  if (submission.status !== "success") {
    const problem = submission.error?.campaign ?? submission.error?.campaigns;
    return data(said(problem?.[0] ?? null), 400);
  }
  const { services, sql, member } = at(context);
  const template = await getTemplate(sql, params.template);
  if (!template) return data(said("This template is gone."), 404);
  if (!liftsHolds(member)) {
    return data(said("Owners and designers change templates. Ask one of them."), 403);
  }
  const asked = submission.value;
  try {
    switch (asked.do) {
      case "say":
        await renameTemplate(sql, template.id, asked);
        return said(null);
      case "change": {
        const ids = [asked.campaign];
        const [started] = await startedCampaigns(sql, template.id, { ids });
        const campaign = started && (await getCampaign(sql, started.id));
        if (!campaign) return data(said("This campaign is gone, or was not started from it."), 404);
        await changeTemplate(services, template, campaign, member);
        return said(null);
      }
      case "carry":
        return said(null, await carryInto(services, template, asked.campaigns, member));
    }
  } catch (error) {
    if (error instanceof EditError) return data(said(error.message), 409);
    throw error;
  }
}

type Loaded = Route.ComponentProps["loaderData"];
type Said = NonNullable<Route.ComponentProps["actionData"]>;
const OPTIONS = Object.entries(CATEGORIES).map(([value, label]) => ({ value, label }));

function Saying({
  template,
  result,
}: Pick<Loaded, "template"> & { result: Said["result"] | undefined }) {
  const { name, about, category } = template;
  const [form, fields] = useForm({
    id: "say",
    lastResult: result,
    constraint: getZodConstraint(sayingSchema),
    defaultValue: { name, about, category },
  });
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-3">
      <input type="hidden" name="do" value="say" />
      <TextField meta={fields.name} label="Name" />
      <TextField meta={fields.about} label="What it is for" />
      <SelectField meta={fields.category} label="Category" options={OPTIONS} />
      <Button type="submit" className="self-start">
        Keep
      </Button>
    </Form>
  );
}

function Changing({ loaderData: { template, started } }: { loaderData: Loaded }) {
  return (
    <section className="mt-6 border-t pt-4">
      <h2 className="mb-1.5 text-lead italic">Change it</h2>
      <p className="text-ink-2">
        <Link className="link" to={`/campaigns/new?from=template:${template.id}`}>
          Start a campaign from it
        </Link>
        , change that, and make it the template here. Subject and sender stay each email’s own.
      </p>
      {started.length > 0 && (
        <Form method="post" className="mt-3 flex items-end gap-2">
          <input type="hidden" name="do" value="change" />
          <Field label="As it is in" className="min-w-0 flex-1">
            {(own) => (
              <Select
                {...own}
                className="w-full"
                name="campaign"
                initial=""
                hint="a campaign started from it"
                options={named(started)}
              />
            )}
          </Field>
          <Button type="submit">Make it the template</Button>
        </Form>
      )}
    </section>
  );
}

/** What would change in the campaigns that are behind, before and after. */
function Carrying({
  template,
  mayChange,
  found: { behind, more },
}: Pick<Loaded, "template" | "mayChange"> & { found: Awaited<Loaded["behind"]> }) {
  const free = behind.filter(({ fixed }) => !fixed);
  const [chosen, setChosen] = useState<readonly string[]>(free.map(({ id }) => id));
  if (behind.length === 0) {
    return (
      <p className="text-ink-2">Every campaign that is not sent has what the template says.</p>
    );
  }
  return (
    <Form method="post">
      <input type="hidden" name="do" value="carry" />
      <ul className="flex flex-col gap-4">
        {behind.map(({ id, name, documentId, seq, fixed, changed, kept }) => (
          <li key={id} className="rounded-md border bg-sheet p-3">
            <div className="mb-2 flex items-center gap-2">
              <Checkbox
                label={name}
                name="campaigns"
                value={id}
                disabled={fixed || !mayChange}
                checked={chosen.includes(id)}
                onChange={({ target }) =>
                  setChosen(target.checked ? [...chosen, id] : chosen.filter((one) => one !== id))
                }
              />
              {fixed && <Chip>scheduled: stays as it is</Chip>}
              <span className="ml-auto text-small text-ink-3">
                {counted(changed, "place changes", "places change")}
                {kept > 0 && `, ${counted(kept, "stays", "stay")} as changed by hand`}
              </span>
            </div>
            <div className="flex gap-4">
              <figure>
                <Look src={lookOf({ documentId, seq })} scale={0.4} height={220} framed={false} />
                <figcaption className="mt-1 text-small text-ink-3">As it is</figcaption>
              </figure>
              <figure>
                <Look
                  src={`/templates/${template.id}/with-change/${id}?v=${template.seq}-${seq}`}
                  scale={0.4}
                  height={220}
                  framed={false}
                />
                <figcaption className="mt-1 text-small text-ink-3">With the change</figcaption>
              </figure>
            </div>
          </li>
        ))}
      </ul>
      <Button primary type="submit" className="mt-3" disabled={!mayChange || chosen.length === 0}>
        Carry it into {counted(chosen.length, "campaign")}
      </Button>
      <p className="mt-1.5 text-small text-ink-3">
        It is one step in each, which Undo in that campaign takes back.
        {more && " More campaigns come after these."}
      </p>
    </Form>
  );
}

export default function TemplatePage({ loaderData, actionData }: Route.ComponentProps) {
  const { template, behind, mayChange } = loaderData;
  const { done = [], left = [] } = actionData?.carried ?? {};
  const said = actionData?.result.status === "success" && !actionData.problem;
  useTold(actionData, said && done.length + left.length === 0, "Kept");
  return (
    <Page wide>
      <PageTitle
        title={template.name}
        about={
          <Link className="link" to="/templates">
            Templates
          </Link>
        }
      />
      <FormErrors errors={actionData?.problem ? [actionData.problem] : null} />
      {(done.length > 0 || left.length > 0) && (
        <div role="status" className="mb-4 rounded-md bg-bench p-2.5">
          {done.length > 0 && (
            <p className="font-semibold">
              Carried into {done.map((name) => `“${name}”`).join(", ")}.
            </p>
          )}
          {left.map(({ name, why }) => (
            <p key={name}>
              “{name}”: {why}
            </p>
          ))}
        </div>
      )}
      <div className="flex gap-8 max-md:flex-col">
        <div className="w-[22rem] flex-none max-md:w-full">
          <Look src={lookOf(template)} scale={0.5} height={260} />
          <div className="mt-4">
            {mayChange ? (
              <Saying template={template} result={actionData?.result} key={template.name} />
            ) : (
              <p className="text-ink-2">{template.about}</p>
            )}
          </div>
          {mayChange && <Changing loaderData={loaderData} />}
        </div>
        <section className="min-w-0 flex-1" aria-label="Campaigns started from it">
          <h2 className="mb-2 text-lead italic">Campaigns started from it</h2>
          <Later of={behind} until={<p className="text-ink-3">Looking at them…</p>}>
            {(found) => (
              <Carrying
                {...{ template, mayChange, found }}
                key={found.behind.map(({ id }) => id).join()}
              />
            )}
          </Later>
        </section>
      </div>
    </Page>
  );
}
