/** Starting a campaign: from a template, from an earlier email, or from nothing. */
import { z } from "zod";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { canonical } from "#core/json.ts";
import { pathOf } from "#core/rules/index.ts";
import { withKnownTags } from "#core/templates/known-tags.ts";
import { isBlank, line } from "#core/text/index.ts";
import { isShippedTheme, SHIPPED_THEMES } from "#core/theme/shipped.ts";
import type { Theme } from "#core/theme/theme.ts";
import type { Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { copyAttachments } from "../store/attachments.ts";
import { type Campaign, createCampaign, getCampaign } from "../store/campaigns.ts";
import { loadDocument } from "../store/documents.ts";
import { getSchema } from "../store/fields.ts";
import { getSettings, type Settings } from "../store/settings.ts";
import { getTemplate, startedFrom } from "../store/templates.ts";
import { getTheme, listThemes } from "../store/themes.ts";
import { inTheme } from "./looks.ts";

/** What a campaign begins with, as it stands in addresses and forms. */
export const startSchema = z
  .string()
  .regex(/^(blank|template:\w+|campaign:\w+)$/, "Choose what to start from.");

/**
 * Themes by their keys: `brand` is the one of Settings, an id one of the house's others; any other word leaves an email
 * its own.
 */
export async function themeNamed(sql: Sql, key: string): Promise<Theme | null> {
  if (key === "" || key === "own") return null;
  if (key === "brand") return (await getSettings(sql)).theme;
  return isShippedTheme(key) ? SHIPPED_THEMES[key] : getTheme(sql, key);
}

/** The themes an email can be seen and started in, the brand's first; one that is like another is told once. */
export async function offeredThemes(sql: Sql): Promise<{ key: string; theme: Theme }[]> {
  const { theme: brand } = await getSettings(sql);
  const kept = await listThemes(sql);
  const all = [
    { key: "brand", theme: brand },
    ...kept.map(({ id, theme }) => ({ key: id, theme })),
    ...Object.entries(SHIPPED_THEMES).map(([key, theme]) => ({ key, theme: theme as Theme })),
  ];
  const known = new Set<string>();
  return all.filter(({ theme }) => {
    const look = canonical({ ...theme, name: "" } as never);
    if (known.has(look)) return false;
    known.add(look);
    return true;
  });
}

/** An email that a campaign can begin with. */
export interface Start {
  /** The template it is; null for an earlier email. */
  readonly template: string | null;
  readonly name: string;
  readonly about: string;
  readonly documentId: string;
  readonly seq: number;
  readonly doc: EmailDocument;
  /** The earlier campaign it is; whoever has left its topic is not to get what comes of it either. */
  readonly earlier?: Pick<Campaign, "id" | "audience" | "topic">;
}

/** Finds it; null where it is gone. Gives `trouble` where its document cannot be read. */
export async function findStart(
  sql: Sql,
  from: string,
): Promise<Start | { readonly trouble: string } | null> {
  const [kind, id] = from.split(":") as [string, string?];
  if (!id) return null;
  const source = kind === "template" ? await getTemplate(sql, id) : await getCampaign(sql, id);
  const stored = source && (await loadDocument(sql, source.documentId));
  if (!stored) return null;
  if (stored.trouble) return { trouble: stored.trouble.reason };
  const { documentId, seq } = source;
  const template = kind === "template" ? id : null;
  const found = { template, name: source.name, about: "", documentId, seq, doc: stored.doc };
  return "audience" in source ? { ...found, earlier: source } : { ...found, about: source.about };
}

/** An empty email in the brand's looks: only the footer stands, because every email needs one. */
function blank(settings: Settings): EmailDocument {
  const footer = createBlock("footer", newId);
  const bands = [createBand(newId, [createColumn(newId, [footer])], { name: "Footer" })];
  const { theme } = settings;
  return createDocument(bands, { theme, ...(theme.width && { width: theme.width }) });
}

/** The sender from the settings, where the document names none. */
function withSender(doc: EmailDocument, { sender }: Settings): EmailDocument {
  const props = doc.root.props as unknown as EmailProps;
  const { envelope } = props;
  const filled = {
    ...envelope,
    fromName: isBlank(envelope.fromName) ? line(sender.fromName) : envelope.fromName,
    fromAddress: envelope.fromAddress || sender.fromAddress,
    replyTo: envelope.replyTo || sender.replyTo,
  };
  return { ...doc, root: { ...doc.root, props: { ...props, envelope: filled } as never } };
}

/**
 * What a campaign could be called: as what it starts from, in this month. A month in that name gives way to it.
 * `language` is BCP 47, `zone` an IANA one.
 */
export function proposedName(
  name: string,
  now: Date,
  { language, zone }: { language: string; zone: string },
): string {
  const monthOf = (date: Date, timeZone: string) =>
    new Intl.DateTimeFormat(language, { month: "long", timeZone }).format(date);
  const months = Array.from({ length: 12 }, (_, i) =>
    monthOf(new Date(Date.UTC(2026, i, 15)), "UTC"),
  );
  const words = name.split(/(\s+)/);
  const at = words.findIndex((word) => months.includes(word));
  const month = monthOf(now, zone);
  const year = new Intl.DateTimeFormat("en", { year: "numeric", timeZone: zone }).format(now);
  return at < 0 ? `${name}, ${month} ${year}` : words.with(at, month).join("");
}

/** Starts a campaign, in a transaction of the caller; gives its id. `start` is null for a blank one. */
export async function startCampaign(
  sql: Sql,
  {
    name,
    start,
    theme,
  }: {
    name: string;
    start: (Pick<Start, "doc" | "earlier"> & Partial<Pick<Start, "template" | "seq">>) | null;
    theme: string;
  },
  now: Date,
): Promise<string> {
  const settings = await getSettings(sql);
  const begun = start?.doc ?? blank(settings);
  // An earlier email says what it says; a template was written for people whom nobody here may know so well.
  const schema = await getSchema(sql);
  const { earlier } = start ?? {};
  const known = earlier ? begun : withKnownTags(begun, (path) => pathOf(path, schema) !== null);
  const doc = inTheme(known, await themeNamed(sql, theme));
  const { audience, topic = null } = earlier ?? {};
  const id = await createCampaign(sql, name, withSender(doc, settings), now, audience, topic);
  if (earlier) await copyAttachments(sql, earlier.id, id, now);
  if (start?.template) await startedFrom(sql, id, start.template, start.seq ?? 0);
  return id;
}
