/** A sign-up form as HTML for other sites: plain, without scripts or styles of ours. */
import type { Field } from "#core/fields/index.ts";
import { escapeHtml } from "#core/markup/index.ts";
import { type Language, phrases } from "#core/phrases/index.ts";

/** An input that people never see, and robots fill in. */
export const HONEYPOT = "website";

function inputOf({ id, label, type, options = [] }: Field): string {
  const name = escapeHtml(`f.${id}`);
  const choices = type === "yesNo" ? ["yes", "no"] : options;
  if (type === "choices") {
    const boxes = choices.map(
      (one) =>
        `    <label><input type="checkbox" name="${name}" value="${escapeHtml(one)}"> ${escapeHtml(one)}</label>`,
    );
    return `  <fieldset>\n    <legend>${escapeHtml(label)}</legend>\n${boxes.join("\n")}\n  </fieldset>`;
  }
  const input =
    type === "choice" || type === "yesNo"
      ? `<select name="${name}"><option></option>${choices.map((one) => `<option>${escapeHtml(one)}</option>`).join("")}</select>`
      : `<input name="${name}"${type === "date" ? ' type="date"' : ""}>`;
  return `  <label>${escapeHtml(label)} ${input}</label>`;
}

export function signupHtml(
  address: string,
  form: { language: Language; title: string; wording: string },
  fields: readonly Field[],
  topics: readonly { id: string; name: string }[],
): string {
  const say = phrases(form.language);
  return [
    `<form method="post" action="${escapeHtml(address)}" lang="${form.language}" accept-charset="utf-8">`,
    `  <h2>${escapeHtml(form.title)}</h2>`,
    `  <p>${escapeHtml(form.wording)}</p>`,
    `  <label>${escapeHtml(say.joinEmail)} <input type="email" name="email" required autocomplete="email"></label>`,
    ...fields.map(inputOf),
    ...topics.map(
      ({ id, name }) =>
        `  <label><input type="checkbox" name="topic" value="${escapeHtml(id)}" checked> ${escapeHtml(name)}</label>`,
    ),
    `  <div style="position:absolute;left:-9999px" aria-hidden="true"><input name="${HONEYPOT}" tabindex="-1" autocomplete="off"></div>`,
    `  <button type="submit">${escapeHtml(say.joinSend)}</button>`,
    "</form>",
  ].join("\n");
}
