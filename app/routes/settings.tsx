import { asciiDomain } from "#core/mail/index.ts";
import { getSchema } from "#server/store/fields.ts";
import { getPictures } from "#server/store/pictures.ts";
import { getSettings } from "#server/store/settings.ts";
import { listMembers, passwordIsSet } from "#server/store/team.ts";
import { sentForm } from "../form.ts";
import { at, late } from "../request.ts";
import { AccountForm } from "../settings/account-form.tsx";
import { DomainSection } from "../settings/domain-section.tsx";
import { LinksForm } from "../settings/links-form.tsx";
import { PagesForm } from "../settings/pages-form.tsx";
import { managesTeam, saveSection } from "../settings/save.ts";
import { SenderForm } from "../settings/sender-form.tsx";
import { SendingForm } from "../settings/sending-form.tsx";
import { TeamForm } from "../settings/team-form.tsx";
import { WebhookForm } from "../settings/webhook-form.tsx";
import { WordsForm } from "../settings/words-form.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { useTold } from "../ui/toast.tsx";
import type { Route } from "./+types/settings.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Settings · Septima" }];

export async function loader({ context, request }: Route.LoaderArgs) {
  const { services, sql, member } = at(context);
  const team = await listMembers(sql);
  const settings = await getSettings(sql);
  const { fromAddress } = settings.sender;
  const name = asciiDomain(fromAddress.slice(fromAddress.lastIndexOf("@") + 1));
  const fresh = new URL(request.url).searchParams.has("ask");
  return {
    settings,
    domain: name
      ? { name, records: late(context, () => services.domains.records(name, fresh)) }
      : null,
    member,
    logo: settings.pages.logo ? ((await getPictures(sql, [settings.pages.logo]))[0] ?? null) : null,
    // Who has no password yet is not asked for one.
    asks: await passwordIsSet(sql, member.id),
    texts: [...(await getSchema(sql)).fields.values()].filter(({ type }) => type === "text"),
    zones: Intl.supportedValuesOf("timeZone"),
    team,
    manages: managesTeam(member, team),
  };
}

export const action = async ({ request, context }: Route.ActionArgs) =>
  saveSection(await sentForm(request), context);

export default function SettingsPage({ loaderData, actionData }: Route.ComponentProps) {
  useTold(actionData, !!actionData && actionData.result.status !== "error", "Saved");
  return (
    <Page>
      <PageTitle title="Settings" />
      <div className="grid grid-cols-2 items-start gap-x-12 gap-y-8 max-lg:grid-cols-1">
        <div className="flex flex-col gap-8">
          <SenderForm data={loaderData} result={actionData} />
          <DomainSection domain={loaderData.domain} />
          <SendingForm data={loaderData} result={actionData} />
          <WebhookForm data={loaderData} result={actionData} />
          <LinksForm
            key={loaderData.settings.linkParameters.length}
            data={loaderData}
            result={actionData}
          />
          <WordsForm data={loaderData} result={actionData} />
        </div>
        <div className="flex flex-col gap-8">
          <PagesForm data={loaderData} result={actionData} />
          <TeamForm data={loaderData} result={actionData} />
          <AccountForm data={loaderData} result={actionData} />
        </div>
      </div>
    </Page>
  );
}
