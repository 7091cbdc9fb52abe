/** The wall: every version that anybody gets, the most frequent first; only those in sight are drawn. */
import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { type RefObject, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { LIMITS } from "#core/limits.ts";
import type { Wall as WallData, WallVersion } from "#server/campaigns/wall.ts";
import { Button } from "../ui/button.tsx";
import { Checkbox } from "../ui/checkbox.tsx";
import { INPUT } from "../ui/field.tsx";
import { finderOf } from "../ui/finder.ts";
import { Segmented } from "../ui/segmented.tsx";
import { Select } from "../ui/select.tsx";
import { count, counted, readers } from "../ui/words.ts";
import { ROW, VersionRow } from "./row.tsx";
import { useSights } from "./sights.ts";
import { versionWords } from "./words.tsx";

/** A family, as the page knows it. */
export interface ShownFamily {
  readonly value: string;
  readonly label: string;
  readonly says: string;
  readonly desktop: boolean;
}

type Which = "all" | "smallest";

/** A version with what it is called. */
interface Named {
  readonly version: WallVersion;
  readonly words: string;
}

const NOTHING: readonly string[] = [];

export function Wall({
  campaign,
  seq,
  wall,
  width,
  family,
  dark,
  scroller,
}: {
  campaign: string;
  /** The state of the email. */
  seq: number;
  wall: WallData;
  width: number;
  /** How mail programs of this family show it. */
  family: ShownFamily;
  /** The email has colours for the dark. */
  dark: boolean;
  scroller: RefObject<HTMLElement | null>;
}) {
  const [asked, setAsked] = useSearchParams();
  const navigate = useNavigate();
  const [which, setWhich] = useState<Which>("all");
  const [search, setSearch] = useState("");
  const [rare, setRare] = useState(false);
  const [marking, setMarking] = useState(false);
  const pairs = asked.has("pairs");
  const sights = useSights(campaign, seq, { as: family.value, ...(marking && { marks: "1" }) });
  const texts = useSights(campaign, seq, { as: "plainText" });
  const named = useMemo((): Named[] => {
    const several = new Set(wall.versions.map(({ lang }) => lang)).size > 1;
    return wall.versions.map((version, i) => ({
      version,
      words: versionWords(version, { parts: wall.parts, usual: i === 0, several }),
    }));
  }, [wall]);
  const wanted = search.trim().toLowerCase();
  const fitting = named.filter(
    ({ version, words }) =>
      (which === "all" || wall.smallest.includes(version.key)) &&
      words.toLowerCase().includes(wanted),
  );
  // Those that few get are told together, until somebody asks for them or for some of them.
  const folded = which === "all" && !rare && wanted === "" ? LIMITS.wallRows : fitting.length;
  const shown = fitting.slice(0, folded);
  const others = fitting.slice(folded);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 1,
    initialRect: { width: 940, height: 700 },
  });
  const set = (name: string, value: string | null) =>
    setAsked(
      (before) => {
        if (value === null) before.delete(name);
        else before.set(name, value);
        return before;
      },
      { preventScrollReset: true },
    );
  const lookAt = (contact: number) => {
    const next = new URLSearchParams(asked);
    next.set("reader", String(contact));
    return `?${next}`;
  };
  const unseen = wall.versions.filter(({ key }) => wall.unseen.includes(key));
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Segmented
          label="Which versions"
          value={which}
          onChange={setWhich}
          options={[
            { value: "all", label: `All ${count(wall.versions.length)}` },
            { value: "smallest", label: `Smallest set: ${count(wall.smallest.length)}` },
          ]}
        />
        {which === "smallest" && (
          <Checkbox
            label="Cover all pairs"
            className="text-small"
            checked={pairs}
            onChange={(event) => set("pairs", event.currentTarget.checked ? "1" : null)}
          />
        )}
        <input
          type="search"
          aria-label="Search versions"
          placeholder="Find a part or a language"
          className={clsx(INPUT, "max-w-52")}
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
        <Select
          label="Only readers of"
          none="All readers"
          options={[]}
          finder={finderOf("segments")}
          value={asked.get("segment") ?? ""}
          onValue={(value) => set("segment", value || null)}
          className="w-44"
        />
        {wall.versions.length > 1 && (
          <Checkbox
            label="Mark what differs"
            className="text-small"
            checked={marking}
            onChange={(event) => setMarking(event.currentTarget.checked)}
          />
        )}
      </div>
      <p className="mb-3 flex flex-wrap items-center gap-3 text-small text-ink-2" role="status">
        {wall.versions.length === 0 ? null : unseen.length === 0 ? (
          <span className="text-leaf">
            Everything there is to see has been looked at in this state.
          </span>
        ) : (
          <>
            <span>
              {counted(wall.smallest.length, "version shows", "versions show")} all there is to see;{" "}
              {unseen.length === wall.smallest.length
                ? "nobody has looked at any in this state."
                : `${counted(unseen.length, "has", "have")} not been looked at in this state.`}
            </span>
            <Button onClick={() => void navigate(lookAt(unseen[0]!.sample))}>
              Look through {unseen.length === 1 ? "it" : "them"}
            </Button>
          </>
        )}
      </p>
      {fitting.length === 0 && (
        <p className="text-ink-2">
          {wall.versions.length ? "No matches." : "Nobody of this segment is among the readers."}
        </p>
      )}
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const { version, words } = shown[item.index]!;
          return (
            <div
              key={version.key}
              className="absolute right-0 left-0"
              style={{ top: item.start - virtual.options.scrollMargin, height: ROW }}
            >
              <VersionRow
                campaign={campaign}
                version={version}
                words={words}
                readers={wall.readers}
                width={width}
                sights={sights}
                text={family.value === "sent" ? texts : null}
                to={lookAt(version.sample)}
                narrow={!family.desktop}
                dark={dark && family.value === "sent"}
                marked={
                  marking
                    ? version.differs.map((one) => wall.parts[Math.abs(one) - 1]!.at)
                    : NOTHING
                }
              />
            </div>
          );
        })}
      </div>
      {others.length > 0 && (
        <p className="flex items-center gap-3 border-t pt-3 text-body">
          And {counted(others.length, "rarer version")}, for{" "}
          {readers(others.reduce((sum, { version }) => sum + version.people, 0))} in all.
          <Button onClick={() => setRare(true)}>Show them</Button>
        </p>
      )}
    </>
  );
}
