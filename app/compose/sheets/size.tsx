/** How large the HTML is as it goes out, against the size at which webmail cuts it off. */

import { kilobytes } from "#core/kilobytes.ts";
import { LIMITS } from "#core/limits.ts";
import { useFindings } from "../inspecting/findings.ts";

export function Size() {
  const bytes = useFindings(({ inspection }) => inspection?.bytes);
  if (bytes === undefined) return null;
  const kb = kilobytes(bytes);
  const most = kilobytes(LIMITS.htmlBytes);
  const over = bytes > LIMITS.htmlBytes;
  const near = bytes > LIMITS.htmlBytes * 0.8;
  return (
    <span
      className={`text-small whitespace-nowrap max-xl:hidden ${over ? "font-semibold text-rust" : near ? "font-semibold text-saffron-ink" : "text-ink-3"}`}
      title={`Some webmail shows ${most} KB of HTML and cuts off the rest.`}
    >
      {kb} of {most} KB
    </span>
  );
}
