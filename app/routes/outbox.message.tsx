import { Download } from "lucide-react";
import { simpleParser } from "mailparser";
import { Tabs } from "radix-ui";
import { data, Link } from "react-router";
import { messageSource } from "#server/store/outbox.ts";
import { at, zoneOf } from "../request.ts";
import { Buttonlike } from "../ui/button.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { dayAndTime } from "../ui/words.ts";
import type { Route } from "./+types/outbox.message.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export const meta = () => [{ title: "Message · Septima" }];

export async function loader({ params, context }: Route.LoaderArgs) {
  const source = await messageSource(at(context).sql, Number(params.message) || 0);
  if (!source) throw data("This message is gone.", { status: 404 });
  const parsed = await simpleParser(source, { skipHtmlToText: true, skipTextToHtml: true });
  const to = Array.isArray(parsed.to) ? parsed.to : parsed.to ? [parsed.to] : [];
  return {
    id: params.message,
    subject: parsed.subject ?? "(no subject)",
    from: parsed.from?.text ?? "",
    to: to.map((address) => address.text).join(", "),
    when: parsed.date ? dayAndTime(parsed.date, await zoneOf(context)) : "",
    text: parsed.text ?? "",
    headers: parsed.headerLines.map(({ line }) => line).join("\n"),
    source: source.toString("utf8").slice(0, 400_000),
  };
}

const TABS = [
  ["html", "HTML"],
  ["text", "Plain text"],
  ["headers", "Headers"],
  ["source", "Source"],
] as const;
const PRE =
  "max-h-[68vh] overflow-auto rounded-md border bg-sheet p-4 font-mono text-small whitespace-pre-wrap break-words";

export default function Message({ loaderData }: Route.ComponentProps) {
  const { id, subject, from, to, when } = loaderData;
  return (
    <Page>
      <Link to="/outbox" className="link">
        ← Outbox
      </Link>
      <PageTitle title={subject} about={`From ${from} to ${to} · ${when}`}>
        <Buttonlike asChild>
          <a href={`/outbox/${id}/message.eml`} download>
            <Download className="size-4" /> Message file
          </a>
        </Buttonlike>
      </PageTitle>
      <Tabs.Root defaultValue="html">
        <Tabs.List aria-label="Parts of the message" className="mb-3 flex gap-1 border-b">
          {TABS.map(([value, label]) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="-mb-px border-b-2 border-transparent px-3 py-1.5 font-semibold text-ink-2 data-[state=active]:border-plum data-[state=active]:text-plum"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="html">
          <iframe
            title="The message as HTML"
            src={`/outbox/${id}/html`}
            sandbox="allow-popups allow-popups-to-escape-sandbox"
            className="h-[68vh] w-full rounded-md border bg-[#ffffff] [color-scheme:light]"
          />
        </Tabs.Content>
        {(["text", "headers", "source"] as const).map((part) => (
          <Tabs.Content key={part} value={part}>
            {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard */}
            <pre className={PRE} tabIndex={0}>
              {loaderData[part]}
            </pre>
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </Page>
  );
}
