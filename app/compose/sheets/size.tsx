/** How large the HTML is as it goes out, against the size at which webmail cuts it off. */
import { useEffect, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { useComposer } from "../context.ts";

/** Counted when hands have rested so long, ms. */
const REST_MS = 500;
/** What a token and a public address add in every counted link, in round figures. */
const LINK_BYTES = 60;

export function Size() {
  const { doc, surroundings } = useComposer();
  const [bytes, setBytes] = useState<number | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => {
      const compiled = compile(doc, surroundings);
      const { html } = prepare(compiled, { links: "tracked", marks: false, sign: unsigned });
      setBytes(html.constantBytes + html.gaps.length * LINK_BYTES);
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [doc, surroundings]);
  if (bytes === null) return null;
  const kb = Math.ceil(bytes / 1024);
  const most = Math.floor(LIMITS.htmlBytes / 1024);
  const over = bytes > LIMITS.htmlBytes;
  const near = bytes > LIMITS.htmlBytes * 0.8;
  return (
    <span
      className={`text-[11.5px] whitespace-nowrap ${over ? "font-semibold text-rust" : near ? "font-semibold text-saffron-ink" : "text-ink-3"}`}
      title={`Some webmail shows ${most} KB of HTML and cuts off the rest.`}
    >
      {kb} of {most} KB
    </span>
  );
}
