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

/** The empty page for a frame, into which an email is put. */
export const EMPTY_PAGE = "/sheet";
/** Whether that is what stands in a frame. */
export const isEmptyPage = (page: Document): boolean => page.title === "Sheet";

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
  onShown,
  page = EMPTY_PAGE,
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
  /** Hears that the email stands in its frame. */
  onShown?: () => void;
  /** The empty page it is put into. */
  page?: string;
}) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [height, setHeight] = useState(800);
  const heard = useRef(onNode);
  heard.current = onNode;
  const shown = useRef(onShown);
  shown.current = onShown;
  const hearing = onNode !== undefined;
  const outlined = marked.join(" ");
  const show = useCallback(() => {
    const shownIn = frame.current?.contentDocument;
    if (!shownIn?.body || !shownIn.URL.endsWith(EMPTY_PAGE)) return;
    putEmail(shownIn, html);
    // Links would leave the page for an address that the frame may not show.
    shownIn.body.style.pointerEvents = hearing ? "" : "none";
    shownIn.onclick = (event) => {
      event.preventDefault();
      const under: string[] = [];
      for (let at = event.target as Element | null; at; at = at.parentElement) {
        const { node } = (at as HTMLElement).dataset;
        if (node) under.push(node);
      }
      heard.current?.(under);
    };
    const nodes = new Set(outlined.split(" "));
    for (const node of shownIn.querySelectorAll<HTMLElement>("[data-node]")) {
      if (nodes.has(node.dataset.node!)) {
        node.style.outline = "3px solid #8a2f56";
        node.style.outlineOffset = "-3px";
      }
    }
    const measure = () => setHeight(Math.ceil(shownIn.body.getBoundingClientRect().height));
    measure();
    shown.current?.();
    const observer = new ResizeObserver(measure);
    observer.observe(shownIn.body);
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
        src={page}
        sandbox="allow-same-origin"
        onLoad={() => void show()}
        className="origin-top-left"
        style={{
          width,
          // What is cut off is not drawn.
          height: Math.min(height, most / scale),
          transform: `scale(${scale})`,
          colorScheme: dark ? "dark" : "light",
        }}
        tabIndex={-1}
      />
    </div>
  );
}
