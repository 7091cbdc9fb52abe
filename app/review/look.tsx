/** A version as a reviewer looks at it: at any width, light or dark, or as plain text. */
import { useEffect, useRef, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import type { Look as Looked } from "#server/campaigns/sights.ts";
import { answerTo } from "../ask.ts";
import { DarkSwitch, WIDTHS } from "../proof/shapes.tsx";
import { Spoken } from "../proof/words.tsx";
import { Button } from "../ui/button.tsx";
import { EmailFrame } from "../ui/email-frame.tsx";
import { Select } from "../ui/select.tsx";

const AS = [...WIDTHS, { value: "plainText", label: "Plain text" }];

const PHONE = "375";
const WIDE = "768";

type Known = Looked | "failed" | null;

/** How the version looks, asked for anew with every state of the email. */
function useLook(path: string, version: string, as: string, seq: number) {
  const [known, setKnown] = useState<Known>(null);
  const [turn, setTurn] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another state is another look, and so is another try
  useEffect(() => {
    const stop = new AbortController();
    const query = new URLSearchParams({ version, as });
    void answerTo<Looked>(`${path}?${query}`, { signal: stop.signal }).then((look) => {
      if (!stop.signal.aborted) setKnown(look ?? "failed");
    });
    return () => stop.abort();
  }, [path, version, as, seq, turn]);
  return { known, again: () => setTurn(turn + 1) };
}

export function Look({
  path,
  version,
  seq,
  width,
  dark: hasDark,
  marked,
  onNode,
}: {
  /** Where looks are asked for. */
  path: string;
  /** Its key. */
  version: string;
  /** The state of the email. */
  seq: number;
  /** Of the wide sheet, px. */
  width: number;
  /** The email has colours for the dark. */
  dark: boolean;
  marked: readonly string[];
  onNode: (nodes: readonly string[]) => void;
}) {
  const [as, setAs] = useState<string>(WIDE);
  const [dark, setDark] = useState(false);
  const words = as === "plainText";
  const { known, again } = useLook(path, version, words ? "plainText" : "sent", seq);
  const room = useRef<HTMLDivElement>(null);
  const [free, setFree] = useState(width);
  useEffect(() => {
    const element = room.current!;
    const measure = () => setFree(element.clientWidth);
    measure();
    // On a phone it stands there as on a phone.
    if (element.clientWidth < LIMITS.emailWidth.min) setAs(PHONE);
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const shown = Number(as) || width;
  const look = typeof known === "object" ? known : null;
  return (
    <section aria-label="The email">
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <Select
          label="Shown at"
          className="w-56"
          options={AS}
          value={as}
          onValue={(value) => setAs(value || WIDE)}
        />
        {hasDark && !words && <DarkSwitch dark={dark} onDark={setDark} />}
      </div>
      {look && (
        <p className="mb-3 text-body">
          <span className="text-ink-2">Subject: </span>
          <strong>{look.subject || "none yet"}</strong>
        </p>
      )}
      <div ref={room} className="min-h-60">
        {known === null && <p className="text-ink-2">Drawing…</p>}
        {known === "failed" && (
          <p>
            This could not be drawn. <Button onClick={again}>Try again</Button>
          </p>
        )}
        {look?.words ? (
          <pre className="max-w-[680px] border bg-sheet p-4 font-mono text-small leading-normal break-words whitespace-pre-wrap">
            <Spoken words={look.words} />
          </pre>
        ) : (
          look && (
            <EmailFrame
              html={look.html}
              title={`The email at ${shown} px`}
              width={shown}
              scale={Math.min(1, free / shown)}
              dark={dark}
              marked={marked}
              onNode={onNode}
              page={path.replace(/email$/, "sheet")}
            />
          )
        )}
      </div>
    </section>
  );
}
