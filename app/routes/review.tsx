/** The page of a reviewer's link: every version of an email, comments, and a decision. It needs no account. */
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useState } from "react";
import { data, useRevalidator } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import { counted } from "#server/campaigns/findings.ts";
import { servicesContext } from "#server/http/context.ts";
import { reviewStateOf, standingsToday } from "#server/reviews/deciding.ts";
import { reviewerOf } from "#server/reviews/links.ts";
import { versionsToReview } from "#server/reviews/looking.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { listComments } from "#server/store/reviews.ts";
import { getSettings } from "#server/store/settings.ts";
import { versionWords } from "../proof/words.tsx";
import { Comments } from "../review/comments.tsx";
import { Decide } from "../review/decision.tsx";
import { Look } from "../review/look.tsx";
import { placesIn, shownComments } from "../review/shown.ts";
import { IconButton } from "../ui/button.tsx";
import { Select } from "../ui/select.tsx";
import { day, readers } from "../ui/words.ts";
import type { Route } from "./+types/review.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: loaderData ? `${loaderData.campaign} · Review` : "Review" },
  // Whoever has the address can look: it stands in no index.
  { name: "robots", content: "noindex" },
];

export async function loader({ params, context }: Route.LoaderArgs) {
  const services = context.get(servicesContext);
  const { sql } = services.database;
  const reviewer = await reviewerOf(services, params.token);
  const campaign = reviewer && (await getCampaign(sql, reviewer.campaign));
  const email = campaign && (await counted(services, campaign));
  if (!email) {
    throw data("This link has ended, or it is not whole. Ask whoever sent it to you.", {
      status: 404,
    });
  }
  const now = services.clock.now();
  const { doc, seq } = email.stored;
  const { brandName, zone } = (await getSettings(sql)).sender;
  const state = await reviewStateOf(services, campaign, email);
  const [today] = await standingsToday(services, campaign, [reviewer], state);
  const { standing, since } = today!;
  return {
    brand: brandName,
    campaign: campaign.name,
    name: reviewer.name,
    until: day(reviewer.expiresAt, now, zone),
    ...(await versionsToReview(services, campaign, email)),
    width: Number(doc.root.props.width),
    dark: Boolean((doc.root.props as unknown as EmailProps).theme.dark),
    seq,
    state: { content: state.content, audience: state.audience },
    standing,
    since,
    comments: shownComments(await listComments(sql, campaign.id), doc, now, zone),
    places: placesIn(doc),
  };
}

export default function Review({ loaderData, params }: Route.ComponentProps) {
  const { versions, comments, places } = loaderData;
  const [at, setAt] = useState(0);
  const [about, setAbout] = useState("");
  const { revalidate } = useRevalidator();
  const again = () => void revalidate();
  const path = `/review/${params.token}/email`;
  const version = versions[Math.min(at, versions.length - 1)]!;
  const several = new Set(versions.map(({ lang }) => lang)).size > 1;
  const known = new Set(places.map(({ value }) => value));
  return (
    <div className="mx-auto max-w-[1240px] px-4 py-5">
      <header className="mb-4">
        <p className="text-ink-2">
          {loaderData.brand} · for {loaderData.name}, until {loaderData.until}
        </p>
        <h1 className="mt-1 text-display">{loaderData.campaign}</h1>
        <p className="mt-1 text-small text-ink-2">
          Names and other values in it are made up. Click on the email to comment on a part of it.
        </p>
      </header>
      <div className="grid grid-cols-[minmax(0,1fr)_340px] gap-6 max-lg:grid-cols-1">
        <main>
          {versions.length > 1 && (
            <div className="mb-3 flex items-center gap-2">
              <Select
                label="Version"
                className="max-w-96 min-w-0 flex-1"
                options={versions.map((one, i) => ({
                  value: String(i),
                  label: `${readers(one.people)}, ${versionWords(one, { parts: loaderData.parts, usual: i === 0, several })}`,
                }))}
                value={String(at)}
                onValue={(value) => setAt(Number(value))}
              />
              <IconButton label="Previous version" disabled={at <= 0} onClick={() => setAt(at - 1)}>
                <ChevronLeft />
              </IconButton>
              <span className="text-small whitespace-nowrap text-ink-2">
                {at + 1} of {versions.length}
              </span>
              <IconButton
                label="Next version"
                disabled={at >= versions.length - 1}
                onClick={() => setAt(at + 1)}
              >
                <ChevronRight />
              </IconButton>
            </div>
          )}
          <Look
            key={version.key}
            path={path}
            version={version.key}
            seq={loaderData.seq}
            width={loaderData.width}
            dark={loaderData.dark}
            marked={about ? [about] : []}
            onNode={(nodes) => setAbout(nodes.find((node) => known.has(node)) ?? "")}
          />
        </main>
        <aside className="flex flex-col gap-6">
          <Decide
            path={path}
            state={loaderData.state}
            standing={loaderData.standing}
            since={loaderData.since}
            onDecided={revalidate}
          />
          <Comments
            comments={comments}
            places={places}
            about={about}
            onAbout={setAbout}
            path={path}
            onSaid={again}
            onShow={setAbout}
          />
        </aside>
      </div>
    </div>
  );
}
