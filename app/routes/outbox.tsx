import { data, Link, useNavigation } from "react-router";
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { MOODS, type OutboxMood } from "#server/mail/outbox-moods.ts";
import { letRead, readingNow } from "#server/standins/readers/readers.ts";
import { countUnread, pageOfMessages } from "#server/store/outbox.ts";
import { submissionOf } from "../form.ts";
import { at, pageNumber, searchIn, zoneOf } from "../request.ts";
import { Button } from "../ui/button.tsx";
import { Form } from "../ui/form.tsx";
import { Chip, Empty, Page, Pager, PageTitle } from "../ui/page.tsx";
import { usePolling } from "../ui/polling.ts";
import { SearchForm } from "../ui/search.tsx";
import { Table } from "../ui/table.tsx";
import { ago, counted } from "../ui/words.ts";
import type { Route } from "./+types/outbox.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Outbox · Septima" }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now, services } = at(context);
  const url = new URL(request.url);
  const search = searchIn(url);
  const page = pageNumber(url);
  const { messages, total } = await pageOfMessages(sql, search, page);
  const zone = await zoneOf(context);
  return {
    search,
    page,
    pages: Math.max(1, Math.ceil(total / LIMITS.outboxPerPage)),
    total,
    elsewhere: services.config.smtp !== null,
    mood: services.outboxMoods.is,
    unread: await countUnread(sql),
    reading: readingNow(services)?.left ?? null,
    messages: messages.map(({ at: when, ...message }) => ({
      ...message,
      when: ago(when, now, zone),
    })),
  };
}

const WITHIN = {
  soon: { ms: 10_000, label: "ten seconds" },
  minute: { ms: 60_000, label: "a minute" },
  hour: { ms: 3_600_000, label: "an hour" },
} as const;
const schema = z.union([
  z.object({ within: z.enum(["soon", "minute", "hour"]) }),
  z.object({ mood: z.enum(MOODS) }),
]);

const MOOD_WORDS: Record<OutboxMood, string> = {
  well: "well",
  slow: "slow",
  defers: "putting everybody off",
  refuses: "refusing every message",
  cuts: "cutting the line",
  dead: "down",
};

/** Lets the readers that ship with the application read what is there, or tells the outbox what to be. */
export async function action({ request, context }: Route.ActionArgs) {
  const submission = await submissionOf(request, schema);
  if (submission.status !== "success") return data(submission.reply(), 400);
  const { services } = at(context);
  if ("mood" in submission.value) {
    services.outboxMoods.is = submission.value.mood;
    return submission.reply();
  }
  const { done } = await letRead(services, WITHIN[submission.value.within].ms);
  // Nobody waits for it: it takes as long as it is to take.
  done.catch((err) => services.log.error({ err }, "the simulated readers failed"));
  return submission.reply();
}

function Readers({ unread, reading }: { unread: number; reading: number | null }) {
  const busy = useNavigation().state !== "idle";
  usePolling(reading === null ? null : NEWS_MS);
  return (
    <section aria-label="Simulated readers" className="mb-5 border-b pb-3">
      <p className="text-ink-2">
        <strong className="text-ink">Simulated readers</strong> open, click, order and leave as
        people do, through the addresses in their messages.{" "}
        {reading === null
          ? unread === 0
            ? "They have read everything."
            : `${counted(unread, "message is", "messages are")} unread.`
          : `They are reading: ${counted(reading, "action is", "actions are")} still to come.`}
      </p>
      {reading === null && unread > 0 && (
        <Form method="post" className="mt-2 flex flex-wrap items-center gap-2">
          <span className="text-small text-ink-2">Let them read within</span>
          {Object.entries(WITHIN).map(([within, { label }]) => (
            <Button key={within} type="submit" name="within" value={within} disabled={busy}>
              {label}
            </Button>
          ))}
        </Form>
      )}
    </section>
  );
}

/** To see what a launch makes of a service that is not well. */
function Mood({ mood }: { mood: OutboxMood }) {
  const busy = useNavigation().state !== "idle";
  return (
    <Form method="post" className="mb-3 flex flex-wrap items-center gap-2 border-b pb-3">
      <span className="text-ink-2">
        <strong className="text-ink">The service is {MOOD_WORDS[mood]}.</strong> Tell it to be:
      </span>
      {MOODS.filter((one) => one !== mood).map((one) => (
        <Button key={one} type="submit" name="mood" value={one} disabled={busy}>
          {MOOD_WORDS[one]}
        </Button>
      ))}
    </Form>
  );
}

/** How long the page rests before it asks how far they are, ms. */
const NEWS_MS = 2_000;

const OUTCOMES = {
  accepted: null,
  refused: <Chip tone="wrong">refused</Chip>,
  deferred: <Chip tone="some">try later</Chip>,
};

export default function Outbox({ loaderData }: Route.ComponentProps) {
  const { messages, search, page, pages, total, elsewhere, unread, reading, mood } = loaderData;
  return (
    <Page>
      <PageTitle
        title="Outbox"
        about={
          elsewhere
            ? "Messages go to another mail service; what the outbox got before stands here."
            : "The mail service that ships with Septima: it delivers nowhere, and keeps what it was handed."
        }
      >
        <SearchForm label="Search messages" hint="Address or subject" search={search} />
      </PageTitle>
      {!elsewhere && <Mood mood={mood} />}
      {!elsewhere && total > 0 && <Readers unread={unread} reading={reading} />}
      {messages.length === 0 ? (
        <Empty title={search ? "No matches" : "No message yet"}>
          Send a test from a campaign’s Proof room, and it will arrive here.
        </Empty>
      ) : (
        <Table
          label="Messages"
          rows={messages}
          keyOf={(row) => row.id}
          columns={[
            { title: "To", cell: (row) => <span className="break-all">{row.to}</span> },
            {
              title: "Subject",
              cell: (row) => (
                <span className="flex items-center gap-2">
                  {row.outcome === "accepted" ? (
                    <Link className="font-semibold hover:text-plum" to={`/outbox/${row.id}`}>
                      {row.subject || "(no subject)"}
                    </Link>
                  ) : (
                    <span className="text-ink-2">{row.subject}</span>
                  )}
                  {OUTCOMES[row.outcome]}
                </span>
              ),
            },
            { title: "From", cell: (row) => <span className="text-ink-2">{row.from}</span> },
            { title: "When", cell: (row) => row.when },
          ]}
        />
      )}
      <Pager
        page={page}
        pages={pages}
        hrefOf={(n) => `?${new URLSearchParams({ search, page: String(n) })}`}
      />
      <p className="mt-2 text-small text-ink-3">{counted(total, "message")}</p>
    </Page>
  );
}
