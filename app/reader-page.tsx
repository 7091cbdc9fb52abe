/** What pages for readers have in common: who is meant, in which language, and how they look. */
import type { CSSProperties, ReactNode } from "react";
import { data, type RouterContextProvider } from "react-router";
import type { Picture } from "#core/kinds/kind.ts";
import { type Language, languageOf, phrases } from "#core/phrases/index.ts";
import type { PageWords } from "#core/phrases/pages.ts";
import { pageColours } from "#core/theme/page.ts";
import { fontStack, type Palette, type Theme } from "#core/theme/theme.ts";
import { servicesContext } from "#server/http/context.ts";
import { getContact } from "#server/store/contacts.ts";
import { getRecipient, type Recipient } from "#server/store/launches/progress.ts";
import { getPictures } from "#server/store/pictures.ts";
import { getSettings } from "#server/store/settings.ts";

type Context = Readonly<RouterContextProvider>;

export interface ReaderOfPage {
  readonly page: PageLook;
  readonly language: Language;
  readonly contact: number | null;
  readonly email: string | null;
  readonly recipient: Recipient | null;
}

/** The reader a token stands for; nobody for a test message. A token made elsewhere is a 404. */
export async function readerOfPage(context: Context, text: string): Promise<ReaderOfPage> {
  const { database, signer } = context.get(servicesContext);
  const { sql } = database;
  const token = signer.read(text);
  const incomplete = () => data(phrases("en").incomplete, { status: 404 });
  if (!token) throw incomplete();
  const recipient = token.kind === "message" ? await getRecipient(sql, token.recipient) : null;
  if (token.kind === "message" && !recipient) throw incomplete();
  const id = token.kind === "person" ? token.contact : (recipient?.contactId ?? null);
  const contact = id === null ? null : await getContact(sql, id);
  if (token.kind === "person" && !contact) throw incomplete();
  const language = languageOf(contact?.values.language);
  return {
    page: await pageLook(context, language),
    language,
    contact: contact?.id ?? null,
    email: contact?.email ?? recipient?.email ?? null,
    recipient,
  };
}

/** What the page of a house looks like, and says in its own words. */
export interface PageLook {
  readonly brand: string;
  readonly logo: Picture | null;
  readonly words: PageWords;
  readonly theme: Theme;
}

export async function pageLook(context: Context, language: Language): Promise<PageLook> {
  const { sql } = context.get(servicesContext).database;
  const { sender, theme, pages } = await getSettings(sql);
  const [logo = null] = pages.logo ? await getPictures(sql, [pages.logo]) : [];
  return { brand: sender.brandName, logo, words: pages.words[language], theme };
}

const RED = { light: "#a63d1e", dark: "#e58a6b" };

/** The application's colours as a theme has them; `way` names whether programs are light or dark. */
function coloursOf(palette: Palette, way: "light" | "dark"): Record<string, string> {
  const page = pageColours(palette, RED[way]);
  const named = {
    ...{ paper: page.ground, sheet: page.sheet, bench: page.tint, line: page.line },
    ...{ ink: page.ink, quiet: page.quiet, accent: page.accent, "on-accent": page.onAccent },
    wrong: page.wrong,
  };
  return Object.fromEntries(
    Object.entries(named).map(([name, colour]) => [`--${way}-${name}`, colour]),
  );
}

export function ReaderPage({
  page: { brand, logo, theme },
  language,
  title,
  children,
}: {
  page: PageLook;
  language: Language;
  title: string;
  children: ReactNode;
}) {
  const style = {
    ...coloursOf(theme.colours, "light"),
    ...coloursOf(theme.dark ?? theme.colours, "dark"),
    "--font-display": fontStack("heading", theme),
    fontFamily: fontStack("body", theme),
  } as CSSProperties;
  return (
    <div className={`branded min-h-full ${theme.dark ? "dark-too" : ""}`} style={style}>
      <main lang={language} className="mx-auto w-[min(440px,90vw)] py-[12vh]">
        {logo ? (
          <img src={`/pictures/${logo.file}`} alt={brand} className="max-h-14 max-w-full" />
        ) : (
          <p className="text-ink-2">{brand}</p>
        )}
        <h1 className="mt-2 text-display">{title}</h1>
        {children}
      </main>
    </div>
  );
}
