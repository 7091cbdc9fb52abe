/** An email in a frame of its own, to look at. */
import { useCallback, useEffect, useRef, useState } from "react";

/**
 * Puts a whole email into a frame's page. Setting the root's content keeps the page's doctype, policy
 * and listeners, which writing to the document would not.
 */
export function putEmail(page: Document, html: string): void {
  const root = page.documentElement;
  root.innerHTML = html.replace(/^[\s\S]*?<html[^>]*>/i, "").replace(/<\/html>\s*$/i, "");
  root.lang = /<html[^>]*\blang="([^"]*)"/i.exec(html)?.[1] ?? "";
}

/** Shows an email at a width (px), scaled; as high as it is, up to `most` px of the page. */
export function EmailFrame({
  html,
  title,
  width,
  scale,
  most,
}: {
  html: string;
  title: string;
  width: number;
  scale: number;
  most?: number;
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
  const shown = height * scale;
  return (
    <div
      className="relative flex-none overflow-auto bg-[#ffffff] outline-1 outline-line"
      style={{ width: width * scale, height: most ? Math.min(most, shown) : shown }}
      tabIndex={most && shown > most ? 0 : undefined}
      role="group"
      aria-label={title}
    >
      <div style={{ height: shown }}>
        <iframe
          ref={frame}
          title={title}
          src="/sheet"
          sandbox="allow-same-origin"
          onLoad={() => void show()}
          className="origin-top-left"
          style={{ width, height, transform: `scale(${scale})` }}
          tabIndex={-1}
        />
      </div>
    </div>
  );
}
