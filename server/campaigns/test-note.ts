/** What a test carries beside the email: a note on top, what was filled in at its end, and how it tells that it was opened. */
import { escapeHtml } from "#core/markup/index.ts";
import type { Message } from "../mail/message.ts";

/** One thing that was filled in. */
export interface Filled {
  readonly kind: "tag" | "condition" | "items";
  readonly name: string;
  readonly value: string;
}

const KINDS = { tag: "Tags", condition: "Conditions", items: "Items" };
const BOX =
  "margin:0;padding:14px 18px;background-color:#fff8e1;color:#1f1a17;border-bottom:2px solid #c98a00;font:15px/1.5 Arial,sans-serif";
const CELL =
  "padding:4px 10px 4px 0;vertical-align:top;text-align:left;border-bottom:1px solid #d9d2c6";

const lines = (text: string) => escapeHtml(text).replaceAll("\n", "<br>");

function tableHtml(rows: readonly Filled[]): string {
  const made = rows.map(
    ({ kind, name, value }) =>
      `<tr><td style="${CELL}">${KINDS[kind]}</td><td style="${CELL}">${escapeHtml(name)}</td><td style="${CELL}">${escapeHtml(value) || "–"}</td></tr>`,
  );
  return `<div style="${BOX}"><strong>Filled in</strong><table cellpadding="0" cellspacing="0" style="border-collapse:collapse;font:14px/1.5 Arial,sans-serif">${made.join("")}</table></div>`;
}

const tableText = (rows: readonly Filled[]) =>
  ["Filled in", ...rows.map(({ name, value }) => `- ${name}: ${value || "–"}`)].join("\n");

/** The message with them in both its parts. `opened`: the address that tells of its opening. */
export function annotated<M extends Message & { readonly html: string }>(
  message: M,
  { note, rows, opened }: { note: string; rows: readonly Filled[]; opened: string },
): M {
  const { html } = message;
  const top = note ? `<div style="${BOX}">${lines(note)}</div>` : "";
  const pixel = `<img src="${escapeHtml(opened)}" width="1" height="1" alt="" style="display:block">`;
  const end = `${rows.length ? tableHtml(rows) : ""}${pixel}`;
  const open = /<body[^>]*>/i.exec(html);
  const at = open ? open.index + open[0].length : 0;
  const close = html.lastIndexOf("</body>");
  const until = close < 0 ? html.length : close;
  const parts = [note, message.text, rows.length ? tableText(rows) : ""];
  return {
    ...message,
    html: `${html.slice(0, at)}${top}${html.slice(at, until)}${end}${html.slice(until)}`,
    text: parts.filter(Boolean).join("\n\n----\n\n"),
  };
}
