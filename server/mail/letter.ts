/** Letters of the application itself: a few paragraphs and a link. */
import { escapeHtml } from "#core/markup/index.ts";
import { newId } from "../ids.ts";
import type { Sender } from "../store/settings.ts";
import type { Message } from "./message.ts";

export interface Letter {
  readonly to: string;
  readonly subject: string;
  /** Plain words; a line break in them stays. */
  readonly paragraphs: readonly string[];
  /** Stands after the first paragraph. */
  readonly link: { readonly words: string; readonly address: string };
  /** BCP 47. */
  readonly lang: string;
}

/** The message of a letter. `kind` stands in its id. */
export function letterMessage(
  { to, subject, paragraphs, link, lang }: Letter,
  sender: Pick<Sender, "fromName" | "fromAddress" | "replyTo">,
  kind: string,
  date: Date,
): Message {
  const [first = "", ...rest] = paragraphs;
  const written = (text: string) => escapeHtml(text).replaceAll("\n", "<br>");
  const html = [
    written(first),
    `<a href="${escapeHtml(link.address)}">${escapeHtml(link.words)}</a>`,
    ...rest.map(written),
  ].map((one) => `<p style="font:16px/1.5 Georgia,serif">${one}</p>`);
  return {
    from: { name: sender.fromName, address: sender.fromAddress },
    to: { name: "", address: to },
    replyTo: sender.replyTo || null,
    subject,
    html: `<!doctype html><html lang="${lang}"><head><meta charset="utf-8"><title>${escapeHtml(subject)}</title></head><body>${html.join("")}</body></html>`,
    text: `${[first, link.address, ...rest].join("\n\n")}\n`,
    lang,
    messageId: `${kind}.${newId()}@${sender.fromAddress.split("@")[1]}`,
    date,
    returnPath: sender.fromAddress,
    unsubscribe: null,
    listId: null,
  };
}
