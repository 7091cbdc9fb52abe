/** The proof follows the email: what others change meanwhile is looked at anew. */
import { useEffect, useRef } from "react";
import { useRevalidator } from "react-router";
import type { StoredEdit } from "#core/document/index.ts";

/** Edits come in one after the other while somebody writes: the page is read when they pause, ms. */
const PAUSE = 1_000;

/** Reads the page anew when the email is in another state than `seq`. */
export function useFollow(campaign: string, seq: number): void {
  const { revalidate } = useRevalidator();
  const shown = useRef(seq);
  shown.current = seq;
  useEffect(() => {
    let source: EventSource | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const begin = () => {
      source ??= new EventSource(`/campaigns/${campaign}/follow?since=${shown.current}`);
      source.onmessage = ({ data }) => {
        const latest = (JSON.parse(data) as StoredEdit[]).at(-1)?.seq ?? 0;
        clearTimeout(timer);
        // What was changed from here is shown by then.
        timer = setTimeout(() => latest > shown.current && void revalidate(), PAUSE);
      };
    };
    const end = () => {
      clearTimeout(timer);
      source?.close();
      source = null;
    };
    begin();
    window.addEventListener("pagehide", end);
    window.addEventListener("pageshow", begin);
    return () => {
      window.removeEventListener("pagehide", end);
      window.removeEventListener("pageshow", begin);
      end();
    };
  }, [campaign, revalidate]);
}
