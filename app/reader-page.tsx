/** What pages for readers have in common: who is meant, in which language, and how they look. */
import type { CSSProperties, ReactNode } from "react";
import { data, type RouterContextProvider } from "react-router";
import { type Language, languageOf, phrases } from "#core/phrases/index.ts";
import type { PageWords } from "#core/phrases/pages.ts";
import { pageFaces } from "#core/theme/faces.ts";
import { pageColours } from "#core/theme/page.ts";
import { fontStack, type Palette } from "#core/theme/theme.ts";
import { servicesContext } from "#server/http/context.ts";
import { getContact } from "#server/store/contacts.ts";
import { getRecipient, type Recipient } from "#server/store/launches/progress.ts";
import { pictureFile } from "#server/store/pictures.ts";
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
  /** The file of its logo; null where its name stands there. */
  readonly logo: string | null;
  readonly words: PageWords;
  /** Its colours and fonts, as custom properties that `.branded` reads. */
  readonly style: Readonly<Record<string, string>>;
  /** Rules that load the house's own fonts. */
  readonly faces: string;
  /** It has colours for programs that show dark. */
  readonly dark: boolean;
}

const RED = { light: "#a63d1e", dark: "#e58a6b" };

/** The application's colours as a theme has them; `way` names whether programs are light or dark. */
function coloursOf(palette: Palette, way: "light" | "dark"): Record<string, string> {
  const { ground, sheet, tint, line, ink, quiet, accent, onAccent, wrong } = pageColours(
    palette,
    RED[way],
  );
  const named = {
    ...{ paper: ground, sheet, bench: tint, line, ink, quiet, accent, wrong },
    "on-accent": onAccent,
  };
  return Object.fromEntries(
    Object.entries(named).map(([name, colour]) => [`--${way}-${name}`, colour]),
  );
}

export async function pageLook(context: Context, language: Language): Promise<PageLook> {
  const { sql } = context.get(servicesContext).database;
  const { sender, theme, pages } = await getSettings(sql);
  return {
    brand: sender.brandName,
    logo: pages.logo && (await pictureFile(sql, pages.logo)),
    words: pages.words[language],
    style: {
      ...coloursOf(theme.colours, "light"),
      ...coloursOf(theme.dark ?? theme.colours, "dark"),
      "--font-display": fontStack("heading", theme),
      fontFamily: fontStack("body", theme),
    },
    faces: pageFaces(theme),
    dark: theme.dark !== null,
  };
}

export function ReaderPage({
  page: { brand, logo, style, faces, dark },
  language,
  title,
  children,
}: {
  page: PageLook;
  language: Language;
  title: string;
  children: ReactNode;
}) {
  return (
    <div className={`branded min-h-full ${dark ? "dark-too" : ""}`} style={style as CSSProperties}>
      {faces && <style>{faces}</style>}
      <main lang={language} className="mx-auto w-[min(440px,90vw)] py-[12vh]">
        {logo ? (
          <img src={`/pictures/${logo}`} alt={brand} className="max-h-14 max-w-full" />
        ) : (
          <p className="text-ink-2">{brand}</p>
        )}
        <h1 className="mt-2 text-display">{title}</h1>
        {children}
      </main>
    </div>
  );
}
