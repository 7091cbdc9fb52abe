/** What pages for readers have in common: who is meant, in which language, and how they look. */
import type { ReactNode } from "react";
import { data, type RouterContextProvider } from "react-router";
import { type Language, languageOf, phrases } from "#core/phrases/index.ts";
import { servicesContext } from "#server/http/context.ts";
import { getContact } from "#server/store/contacts.ts";
import { getRecipient, type Recipient } from "#server/store/launches/progress.ts";
import { getSettings } from "#server/store/settings.ts";

type Context = Readonly<RouterContextProvider>;

export interface ReaderOfPage {
  readonly brand: string;
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
  const { sender } = await getSettings(sql);
  return {
    brand: sender.brandName,
    language: languageOf(contact?.values.language),
    contact: contact?.id ?? null,
    email: contact?.email ?? recipient?.email ?? null,
    recipient,
  };
}

export function ReaderPage({
  brand,
  language,
  title,
  children,
}: {
  brand: string;
  language: Language;
  title: string;
  children: ReactNode;
}) {
  return (
    <main lang={language} className="mx-auto my-[12vh] w-[min(440px,90vw)]">
      <p className="text-ink-2">{brand}</p>
      <h1 className="mt-2 text-display">{title}</h1>
      {children}
    </main>
  );
}
