/** An email in a frame of its own, to look at. */
import { useCallback, useEffect, useRef, useState } from "react";

/**
 * Puts a whole email into a frame's page. Setting the root's content keeps the page's doctype, policy
 * and listeners, which writing to the document would not.
 */
export function putEmail(page: Document, html: string): void {
  const root = page.documentElement;
  root.innerHTML = html.replace(/^[\s\S]*?<html[^>]*>/i, "").replace(/<\/html>\s*$/i, "");
  const attribute = (name: string) =>
    new RegExp(`<html[^>]*\\b${name}="([^"]*)"`, "i").exec(html)?.[1];
  root.lang = attribute("lang") ?? "";
  root.dir = attribute("dir") ?? "";
}

/** Shows an email at a width (px), scaled and as high as it is, as a light mail program does whatever the page's own scheme. */
export function EmailFrame({
  html,
  title,
  width,
  scale,
}: {
  html: string;
  title: string;
  width: number;
  scale: number;
}) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(800);
  const show = useCallback(() => {
    const page = frame.current?.contentDocument;
    if (!page?.body || !page.URL.endsWith("/sheet")) return;
    putEmail(page, html);
    // Links would leave the page for an address that the frame may not show.
    page.body.style.pointerEvents = "none";
    const measure = () => setHeight(Math.ceil(page.body.getBoundingClientRect().height));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(page.body);
    return () => observer.disconnect();
  }, [html]);
  useEffect(show, [show]);
  return (
    <div
      className="flex-none overflow-hidden bg-[#ffffff] outline-1 outline-line"
      style={{ width: width * scale, height: height * scale }}
    >
      <iframe
        ref={frame}
        title={title}
        src="/sheet"
        sandbox="allow-same-origin"
        onLoad={() => void show()}
        className="origin-top-left"
        style={{ width, height, transform: `scale(${scale})`, colorScheme: "light" }}
        tabIndex={-1}
      />
    </div>
  );
}
