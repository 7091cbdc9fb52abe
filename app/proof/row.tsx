/** One version on the wall: who gets it, and how it looks. */
import { type ReactNode, useCallback, useState } from "react";
import { Link } from "react-router";
import { LIMITS } from "#core/limits.ts";
import type { WallVersion } from "#server/campaigns/wall.ts";
import { Button } from "../ui/button.tsx";
import { EmailFrame } from "../ui/email-frame.tsx";
import { readers as readersIn } from "../ui/words.ts";
import { LookedAt } from "./looked.tsx";
import { type Sights, useSight } from "./sights.ts";
import { Spoken, share } from "./words.tsx";

/** Height of the sheets of a row, and of the whole row, px. */
const SHEETS = 216;
export const ROW = 282;
const WIDE = 288;
const SMALL = { width: LIMITS.narrowWidth, scale: 154 / LIMITS.narrowWidth };

/** How long the rest of a row waits at most for others to be drawn, ms. */
const PATIENCE = 5_000;

/** Whether there is time for the rest of a row: the wide sheets of all are drawn first. */
function useRest(): [boolean, () => void] {
  const [rest, setRest] = useState(false);
  const begin = useCallback(() => {
    if ("requestIdleCallback" in window) {
      requestIdleCallback(() => setRest(true), { timeout: PATIENCE });
    } else setRest(true);
  }, []);
  return [rest, begin];
}

export function VersionRow({
  campaign,
  version,
  words,
  readers,
  width,
  sights,
  text,
  to,
  narrow,
  dark,
  marked,
}: {
  campaign: string;
  version: WallVersion;
  words: string;
  /** How many there are in all. */
  readers: number;
  /** Of the wide sheet, px. */
  width: number;
  sights: Sights;
  /** The same as plain text, where that is shown beside it. */
  text: Sights | null;
  /** Where it is looked at. */
  to: string;
  /** Whether it is shown narrow, and in the email's own dark, too. */
  narrow: boolean;
  dark: boolean;
  marked: readonly string[];
}) {
  const sight = useSight(sights, version.sample);
  const label = `${readersIn(version.people)}, ${words}`;
  const [rest, begin] = useRest();
  const shapes = [
    { label: "Wide", width, scale: WIDE / width, onShown: begin },
    ...(narrow && rest ? [{ label: "Narrow", ...SMALL }] : []),
    ...(dark && rest ? [{ label: "Dark", ...SMALL, dark }] : []),
  ];
  return (
    <article aria-label={label} className="h-full">
      <header className="mb-1.5 flex items-baseline gap-2.5">
        <h3 className="font-display text-title">{version.people.toLocaleString("en-GB")}</h3>
        <p className="min-w-0 flex-1 truncate text-body text-ink-2" title={words}>
          {share(version.people, readers)} · {words}
        </p>
        {typeof sight === "object" && (
          <LookedAt campaign={campaign} sights={sights} sight={sight} />
        )}
        <Link to={to} className="link text-small font-semibold">
          Look closer
        </Link>
      </header>
      <div
        className="flex gap-3 overflow-x-auto overflow-y-hidden pb-1"
        style={{ height: SHEETS + 6 }}
      >
        {sight === undefined && <p className="p-3 text-ink-3">Drawing…</p>}
        {sight === "failed" && (
          <p className="p-3">
            This could not be drawn.{" "}
            <Button onClick={() => sights.again(version.sample)}>Try again</Button>
          </p>
        )}
        {typeof sight === "object" &&
          (sight.words ? (
            <pre className="w-full overflow-hidden border bg-sheet p-3 font-mono text-fine leading-snug whitespace-pre-wrap text-ink">
              <Spoken words={sight.words} />
            </pre>
          ) : (
            shapes.map(({ label: shape, ...shown }) => (
              <Sheet key={shape} label={shape.toLowerCase()}>
                <EmailFrame
                  html={sight.html}
                  title={`${shape}: ${label}`}
                  most={SHEETS}
                  marked={marked}
                  {...shown}
                />
              </Sheet>
            ))
          ))}
        {text && rest && <PlainText sights={text} contact={version.sample} />}
      </div>
    </article>
  );
}

function Sheet({ label, children }: { label: string; children: ReactNode }) {
  return (
    <figure className="relative flex-none">
      {children}
      <figcaption className="absolute bottom-1 left-1 rounded-sm bg-sheet px-1.5 text-fine text-ink-2">
        {label}
      </figcaption>
    </figure>
  );
}

function PlainText({ sights, contact }: { sights: Sights; contact: number }) {
  const sight = useSight(sights, contact);
  if (typeof sight !== "object" || !sight.words) return null;
  return (
    <Sheet label="plain text">
      <pre
        className="w-[190px] overflow-hidden border bg-sheet p-2.5 font-mono text-fine leading-snug break-words whitespace-pre-wrap text-ink"
        style={{ height: SHEETS }}
      >
        <Spoken words={sight.words} />
      </pre>
    </Sheet>
  );
}
