/** One version looked at closely: at any width, light or dark, through one contact’s eyes. */
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { LIMITS } from "#core/limits.ts";
import type { Sight } from "#server/campaigns/sights.ts";
import type { Wall } from "#server/campaigns/wall.ts";
import { Button, IconButton } from "../ui/button.tsx";
import { EmailFrame } from "../ui/email-frame.tsx";
import { Later } from "../ui/later.tsx";
import { NumberInput } from "../ui/number-input.tsx";
import { Select } from "../ui/select.tsx";
import { count, fileSize, readers } from "../ui/words.ts";
import { LookedAt, useLooked } from "./looked.tsx";
import { DarkSwitch, WIDTHS } from "./shapes.tsx";
import { type Known, type Sights, useSight, useSights } from "./sights.ts";
import type { ShownFamily } from "./wall.tsx";
import { Spoken, versionWords } from "./words.tsx";

const AT = [
  { value: "both", label: "Wide and narrow" },
  ...WIDTHS,
  { value: "free", label: "Another width" },
];
/** How long somebody looks until it counts, ms. */
const LOOK = 1_200;

export function Closer({
  campaign,
  seq,
  contact,
  wall,
  width,
  family,
}: {
  campaign: string;
  /** The state of the email. */
  seq: number;
  /** 0 for nobody. */
  contact: number;
  wall: Promise<Wall>;
  width: number;
  family: ShownFamily;
}) {
  const sights = useSights(campaign, seq, { as: family.value });
  const texts = useSights(campaign, seq, { as: "plainText" });
  const sight = useSight(sights, contact);
  const [at, setAt] = useState<string>("both");
  const [free, setFree] = useState<number | null>(480);
  const [dark, setDark] = useState(false);
  return (
    <>
      <Later of={wall}>{(known) => <Steps wall={known} sight={sight} />}</Later>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <Select
          label="Width"
          className="w-56"
          options={AT}
          value={at}
          onValue={(value) => setAt(value || "both")}
        />
        {at === "free" && (
          <NumberInput label="Width, px" value={free} min={200} max={2_000} onValue={setFree} />
        )}
        <DarkSwitch dark={dark} onDark={setDark} />
        {typeof sight === "object" && (
          <LookedAt campaign={campaign} sights={sights} sight={sight} />
        )}
      </div>
      {sight === undefined && <p className="text-ink-3">Drawing…</p>}
      {sight === "failed" && (
        <p>
          This could not be drawn. <Button onClick={() => sights.again(contact)}>Try again</Button>
        </p>
      )}
      {typeof sight === "object" && (
        <>
          <Seen campaign={campaign} sights={sights} sight={sight} />
          <p className="mb-3 text-body">
            <span className="text-ink-2">Subject: </span>
            <strong>{sight.subject || "none yet"}</strong>
            <span className="ml-3 text-ink-2">{fileSize(sight.bytes)}</span>
          </p>
          {sight.lost.length > 0 && (
            <p className="mb-3 max-w-prose text-small text-ink-2">
              Lost here:{" "}
              {sight.lost.map(({ what, places }) => `${what} (${count(places)})`).join(", ")}.
            </p>
          )}
          <Sheets
            sight={sight}
            texts={at === "both" && family.value === "sent" ? texts : null}
            widths={
              at === "both"
                ? [width, ...(family.desktop ? [] : [LIMITS.narrowWidth])]
                : [at === "free" ? (free ?? width) : Number(at)]
            }
            alone={at !== "both"}
            dark={dark}
          />
        </>
      )}
    </>
  );
}

/** Counts as looked at what stood there for a moment. */
function Seen({ campaign, sights, sight }: { campaign: string; sights: Sights; sight: Sight }) {
  const tell = useLooked(campaign, sights);
  const { contact, looked } = sight;
  // biome-ignore lint/correctness/useExhaustiveDependencies: taken back by hand, it stays so; only another sight begins anew
  useEffect(() => {
    if (looked) return;
    const timer = setTimeout(() => {
      const now = sights.of(contact);
      if (typeof now === "object" && !document.hidden) void tell(now, true);
    }, LOOK);
    return () => clearTimeout(timer);
  }, [sights, contact]);
  return null;
}

/** Which of the versions it is, with steps to the others: first to those nobody has looked at. */
function Steps({ wall, sight }: { wall: Wall; sight: Known }) {
  const version = typeof sight === "object" ? sight.version : null;
  const [asked] = useSearchParams();
  const navigate = useNavigate();
  const at = wall.versions.findIndex(({ key }) => key === version);
  const here = wall.versions[at];
  const several = new Set(wall.versions.map(({ lang }) => lang)).size > 1;
  const go = (to: number) => {
    const next = new URLSearchParams(asked);
    next.set("reader", String(wall.versions[to]!.sample));
    void navigate(`?${next}`, { preventScrollReset: true });
  };
  const left = wall.unseen.filter((key) => key !== version);
  const next = wall.versions.findIndex(({ key }) => key === left[0]);
  const back = new URLSearchParams(asked);
  back.delete("reader");
  if (wall.versions.length === 0) {
    return (
      <p className="mb-2 text-body text-ink-2">
        Nobody gets this email yet: choose its readers. Until then it is shown as one contact would
        get it.
      </p>
    );
  }
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      <Link to={`?${back}`} className="link text-small font-semibold">
        All versions
      </Link>
      <p className="min-w-0 flex-1 text-body" data-version>
        {here && (
          <>
            <strong>{readers(here.people)}</strong>{" "}
            <span className="text-ink-2">
              {versionWords(here, { parts: wall.parts, usual: at === 0, several })}
            </span>
          </>
        )}
        {version !== null && !here && (
          <span className="text-ink-2">Not among the readers as they are chosen now</span>
        )}
      </p>
      {wall.versions.length > 1 && (
        <>
          <IconButton label="Previous version" disabled={at <= 0} onClick={() => go(at - 1)}>
            <ChevronLeft />
          </IconButton>
          <span className="text-small text-ink-2">
            {at < 0 ? "–" : count(at + 1)} of {count(wall.versions.length)}
          </span>
          <IconButton
            label="Next version"
            disabled={at >= wall.versions.length - 1}
            onClick={() => go(at + 1)}
          >
            <ChevronRight />
          </IconButton>
        </>
      )}
      {next >= 0 && (
        <Button onClick={() => go(next)}>Next not looked at ({count(left.length)} left)</Button>
      )}
    </div>
  );
}

function Sheets({
  sight,
  texts,
  widths,
  alone,
  dark,
}: {
  sight: Sight;
  texts: Sights | null;
  widths: readonly number[];
  /** One width that was chosen. */
  alone: boolean;
  dark: boolean;
}) {
  if (sight.words) {
    return (
      <pre className="max-w-[680px] border bg-sheet p-4 font-mono text-small leading-normal break-words whitespace-pre-wrap text-ink">
        <Spoken words={sight.words} />
      </pre>
    );
  }
  const label = (width: number) =>
    alone ? `At ${width} px` : width === LIMITS.narrowWidth ? "Narrow" : "Wide";
  return (
    <div className="flex flex-wrap items-start gap-4 xl:flex-nowrap">
      {widths.map((width) => (
        <figure key={label(width)} className="max-md:max-w-full max-md:overflow-x-auto">
          <EmailFrame
            html={sight.html}
            title={label(width)}
            width={width}
            scale={alone ? Math.min(1, 900 / width) : width === LIMITS.narrowWidth ? 0.62 : 0.72}
            dark={dark}
          />
          <figcaption className="mt-1 text-small text-ink-2">
            {label(width).toLowerCase()}
            {alone ? "" : `, ${width} px`}
          </figcaption>
        </figure>
      ))}
      {texts && <Text texts={texts} contact={sight.contact} />}
    </div>
  );
}

function Text({ texts, contact }: { texts: Sights; contact: number }) {
  const sight = useSight(texts, contact);
  if (typeof sight !== "object" || !sight.words) return null;
  return (
    <figure className="min-w-[200px] flex-1 max-md:order-3">
      <pre className="min-h-40 border bg-sheet p-3 font-mono text-fine leading-snug break-words whitespace-pre-wrap text-ink">
        <Spoken words={sight.words} />
      </pre>
      <figcaption className="mt-1 text-small text-ink-2">plain text</figcaption>
    </figure>
  );
}
