/** Every way out of a campaign's email: as a reader gets it or with its tags, as files to take along. */
import { Download, Image, Printer } from "lucide-react";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import { languageName } from "#core/languages/index.ts";
import { bringCampaignUpToDate } from "#server/campaigns/linking.ts";
import { FORMATS, type Format, type FormatKey } from "#server/export/formats.ts";
import { getContact, stepContact } from "#server/store/contacts.ts";
import { loadDocument } from "#server/store/documents.ts";
import { ReadingAs } from "../compose/sheets/strip.tsx";
import { choiceOf } from "../reader-choice.ts";
import { at, campaignOf } from "../request.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Page, PageTitle } from "../ui/page.tsx";
import { usePut } from "../ui/put.ts";
import { Segmented } from "../ui/segmented.tsx";
import { Select } from "../ui/select.tsx";
import { useToast } from "../ui/toast.tsx";
import type { Route } from "./+types/campaign.export.ts";

export { Failed as ErrorBoundary } from "../ui/failed.tsx";

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql, member } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  await bringCampaignUpToDate(services, campaign, member.id);
  const { doc } = (await loadDocument(sql, campaign.documentId))!;
  const id = Number(new URL(request.url).searchParams.get("contact")) || 0;
  const contact = (id ? await getContact(sql, id) : null) ?? (await stepContact(sql, null, "next"));
  const { lang, others, width } = doc.root.props as unknown as EmailProps;
  return {
    id: campaign.id,
    name: campaign.name,
    width,
    languages: [lang, ...others],
    reader: await choiceOf(sql, contact),
    formats: Object.entries<Format>(FORMATS).map(([key, { label, about, ending, as }]) => ({
      ...{ key: key as FormatKey, label, about, ending, as },
    })),
  };
}

/** The widths of the two sheets, px; the wide one is as wide as the email and what stands around it. */
const NARROW = 375;
const AROUND = 40;

/** A sheet as a picture: the email is shown out of sight, as wide as the sheet, and painted. */
async function paint(address: string, width: number): Promise<Blob> {
  const [{ toBlob }, html] = await Promise.all([
    import("html-to-image"),
    fetch(address).then((answer) => (answer.ok ? answer.text() : Promise.reject(answer))),
  ]);
  const frame = document.createElement("iframe");
  frame.setAttribute("sandbox", "allow-same-origin");
  frame.style.cssText = `position:fixed;left:-10000px;top:0;width:${width}px;height:1000px;border:0`;
  try {
    await new Promise((done) => {
      frame.onload = done;
      frame.srcdoc = html;
      document.body.append(frame);
    });
    const page = frame.contentDocument!.documentElement;
    const blob = await toBlob(frame.contentDocument!.body, {
      ...{ width, height: page.scrollHeight, pixelRatio: 2, skipFonts: true },
    });
    if (!blob) throw new Error("nothing was painted");
    return blob;
  } finally {
    frame.remove();
  }
}

/** Hands a file to the browser. */
function save(blob: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

export default function Export({ loaderData }: Route.ComponentProps) {
  const { id, name, width, languages, reader, formats } = loaderData;
  const [params] = useSearchParams();
  const put = usePut();
  const say = useToast();
  const [painting, setPainting] = useState<string | null>(null);
  const tags = params.get("tags") === "yes";
  const lang = params.get("lang") ?? "";
  const asked = (keeps: boolean) =>
    new URLSearchParams({
      ...(reader && { contact: String(reader.id) }),
      ...(lang && { lang }),
      ...(keeps && { tags: "yes" }),
    });
  const picture = async (sheet: "wide" | "narrow") => {
    setPainting(sheet);
    try {
      const blob = await paint(
        `/campaigns/${id}/export/sheet?${asked(false)}`,
        sheet === "narrow" ? NARROW : width + AROUND,
      );
      save(blob, `${sheet}.png`);
    } catch {
      say("The sheet could not be painted. Try it again.");
    } finally {
      setPainting(null);
    }
  };
  return (
    <Page>
      <PageTitle title="Export" about={`“${name}” as it is now`} />
      <section aria-label="Merge tags" className="mb-6 flex flex-wrap items-center gap-4">
        <Segmented
          label="Filled in or with tags"
          value={tags ? "tags" : "reader"}
          onChange={(value) => put("tags", value === "tags" ? "yes" : "no")}
          options={[
            { value: "reader", label: "As a reader gets it" },
            { value: "tags", label: "With its tags" },
          ]}
        />
        {tags ? (
          <p className="text-body text-ink-2">
            Merge tags and conditions stay, written in Liquid, for another system to fill in.
          </p>
        ) : (
          <ReadingAs reader={reader} onReader={(one) => put("contact", String(one.id))} />
        )}
        {languages.length > 1 && (
          <Select
            label="Language"
            value={lang}
            onValue={(value) => put("lang", value)}
            none="The reader’s language"
            options={languages.map((value) => ({ value, label: languageName(value) }))}
          />
        )}
      </section>
      <ul aria-label="Files" className="divide-y rounded-md border bg-sheet">
        {formats.map(({ key, label, about, as }) => (
          <li key={key} className="flex items-center gap-4 px-4 py-3">
            <div className="min-w-0 flex-1">
              <h2 className="text-body font-semibold">{label}</h2>
              <p className="text-small text-ink-2">{about}</p>
            </div>
            {key === "json" && (
              <a className="link text-small" href="/schema.json" download="septima.schema.json">
                JSON Schema
              </a>
            )}
            <Buttonlike asChild>
              <a
                href={`/campaigns/${id}/export/${key}?${asked(tags && as === "either")}`}
                download
                aria-label={`Download ${label}`}
              >
                <Download className="size-3.5" /> Download
              </a>
            </Buttonlike>
          </li>
        ))}
        <li className="flex items-center gap-4 px-4 py-3">
          <div className="min-w-0 flex-1">
            <h2 className="text-body font-semibold">Images of the sheets (PNG)</h2>
            <p className="text-small text-ink-2">
              The whole email from its head to its foot, at twice its size, as this browser shows
              it.
            </p>
          </div>
          {(["wide", "narrow"] as const).map((sheet) => (
            <Button
              key={sheet}
              disabled={painting !== null}
              onClick={() => void picture(sheet)}
              aria-label={`Download the ${sheet} sheet`}
            >
              <Image className="size-3.5" />
              {painting === sheet ? "Painting…" : sheet === "wide" ? "Wide" : "Narrow"}
            </Button>
          ))}
        </li>
        <li className="flex items-center gap-4 px-4 py-3">
          <div className="min-w-0 flex-1">
            <h2 className="text-body font-semibold">On paper</h2>
            <p className="text-small text-ink-2">All its versions, on one page or on one each.</p>
          </div>
          <Buttonlike asChild>
            <Link to={`/campaigns/${id}/print`}>
              <Printer className="size-3.5" /> Print page
            </Link>
          </Buttonlike>
        </li>
      </ul>
    </Page>
  );
}
