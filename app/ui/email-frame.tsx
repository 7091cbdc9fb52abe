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

const NONE: readonly string[] = [];

/**
 * Shows an email at a width (px), scaled and as high as it is or at `most` (px on the page), as a light mail program
 * does or a dark one, whatever the page's own scheme. `marked`: nodes that are outlined.
 */
export function EmailFrame({
  html,
  title,
  width,
  scale,
  dark = false,
  most = Number.POSITIVE_INFINITY,
  marked = NONE,
  onNode,
}: {
  html: string;
  title: string;
  width: number;
  scale: number;
  dark?: boolean;
  most?: number;
  marked?: readonly string[];
  /** Hears which nodes are under a click, the innermost first. */
  onNode?: (nodes: readonly string[]) => void;
}) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(800);
  const heard = useRef(onNode);
  heard.current = onNode;
  const hearing = onNode !== undefined;
  const outlined = marked.join(" ");
  const show = useCallback(() => {
    const page = frame.current?.contentDocument;
    if (!page?.body || !page.URL.endsWith("/sheet")) return;
    putEmail(page, html);
    // Links would leave the page for an address that the frame may not show.
    page.body.style.pointerEvents = hearing ? "" : "none";
    page.onclick = (event) => {
      event.preventDefault();
      const under: string[] = [];
      for (let at = event.target as Element | null; at; at = at.parentElement) {
        const { node } = (at as HTMLElement).dataset;
        if (node) under.push(node);
      }
      heard.current?.(under);
    };
    const nodes = new Set(outlined.split(" "));
    for (const node of page.querySelectorAll<HTMLElement>("[data-node]")) {
      if (nodes.has(node.dataset.node!)) {
        node.style.outline = "3px solid #8a2f56";
        node.style.outlineOffset = "-3px";
      }
    }
    const measure = () => setHeight(Math.ceil(page.body.getBoundingClientRect().height));
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(page.body);
    return () => observer.disconnect();
  }, [html, outlined, hearing]);
  useEffect(show, [show]);
  return (
    <div
      className="flex-none overflow-hidden outline-1 outline-line"
      style={{
        width: width * scale,
        height: Math.min(most, height * scale),
        background: dark ? "#121212" : "#ffffff",
      }}
    >
      <iframe
        ref={frame}
        title={title}
        src="/sheet"
        sandbox="allow-same-origin"
        onLoad={() => void show()}
        className="origin-top-left"
        style={{
          width,
          height,
          transform: `scale(${scale})`,
          colorScheme: dark ? "dark" : "light",
        }}
        tabIndex={-1}
      />
    </div>
  );
}
