/** Only so much of the HTML is shown. */
import { LIMITS } from "../../limits.ts";
import type { Act } from "../family.ts";

const encoder = new TextEncoder();
const decoder = new TextDecoder();

/** The first so many bytes (UTF-8), never half a letter, never half a tag; and the rest. */
export function cutAt(html: string, bytes: number): { shown: string; rest: string } {
  const all = encoder.encode(html);
  if (all.length <= bytes) return { shown: html, rest: "" };
  let end = bytes;
  while (end > 0 && (all[end]! & 0xc0) === 0x80) end--;
  let shown = decoder.decode(all.subarray(0, end));
  const open = shown.lastIndexOf("<");
  if (open > shown.lastIndexOf(">")) shown = shown.slice(0, open);
  return { shown, rest: html.slice(shown.length) };
}

/** How many of the letters that are cut off stand there, to tell what they are. */
const TOLD = 2_000;
const wordsOf = (html: string) =>
  html
    .replace(/<(style|title)[\s\S]*?<\/\1>|<!--[\s\S]*?-->|<[^>]*>/gi, " ")
    .replace(/\s+/g, " ")
    .trim()
    .slice(0, TOLD);

/** Stands where the email was cut, with the words that are cut off. */
const cutMark = (rest: string): string =>
  `<div data-cut="" style="margin:0;padding:16px;background:#ffffff;color:#000000;font:16px/1.4 sans-serif;border-top:3px solid #b3261e"><strong>The message ends here.</strong> Behind a link: ${wordsOf(rest)}</div>`;

export const clips: Act = {
  loses: "what is beyond the first 102 KB",
  tries: [
    { html: "<p>short</p>", gives: "<p>short</p>" },
    {
      html: `<p>${"é".repeat(LIMITS.htmlBytes / 2)}</p><p>end</p>`,
      gives: `<p>${"é".repeat(LIMITS.htmlBytes / 2 - 2)}${cutMark("éé</p><p>end</p>")}`,
    },
  ],
  after(html) {
    const { shown, rest } = cutAt(html, LIMITS.htmlBytes);
    return rest ? { html: shown + cutMark(rest), places: 1 } : { html, places: 0 };
  },
};
