/** The log of a launch: read, filtered by outcome, searched by address. */
import { useEffect, useState } from "react";
import { answerTo, NO_LINE } from "../ask.ts";
import { Button } from "../ui/button.tsx";
import { INPUT } from "../ui/field.tsx";
import { Select } from "../ui/select.tsx";
import { Table } from "../ui/table.tsx";

interface Line {
  readonly id: number;
  readonly email: string;
  readonly state: string;
  readonly reply: string | null;
  readonly tries: number;
  readonly when: string | null;
}

const STATES = [
  { value: "accepted", label: "accepted" },
  { value: "bounced", label: "bounced" },
  { value: "refused", label: "refused for its content" },
  { value: "deferred", label: "tried again later" },
  { value: "waiting", label: "waiting" },
  { value: "held", label: "suppressed" },
  { value: "unsure", label: "nobody knows" },
  { value: "left", label: "left as it is" },
  { value: "cancelled", label: "cancelled" },
  { value: "control", label: "in the control group" },
] as const;
const labelOf = (state: string) =>
  STATES.find(({ value }) => value === state)?.label ?? "on its way";
/** How long a hand rests before it is searched, ms. */
const REST_MS = 250;

export function Log({ campaign }: { campaign: string }) {
  const [open, setOpen] = useState(false);
  const [state, setState] = useState("");
  const [search, setSearch] = useState("");
  const [lines, setLines] = useState<readonly Line[] | null>(null);
  const [more, setMore] = useState(false);
  const [problem, setProblem] = useState(false);
  /** Asks again for the same. */
  const [turn, setTurn] = useState(0);
  const [from, setFrom] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a turn asks for the same once more
  useEffect(() => {
    if (!open) return;
    let stale = false;
    const timer = setTimeout(async () => {
      const query = new URLSearchParams({ search, from: String(from), ...(state && { state }) });
      const found = await answerTo<{ lines: Line[]; more: boolean }>(
        `/campaigns/${campaign}/log?${query}`,
      );
      if (stale) return;
      setProblem(found === null);
      if (!found) return;
      setMore(found.more);
      setLines((before) => (from === 0 ? found.lines : [...(before ?? []), ...found.lines]));
    }, REST_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [open, campaign, state, search, from, turn]);
  const anew = () => setFrom(0);
  return (
    <details onToggle={(event) => setOpen(event.currentTarget.open)} className="border-t pt-3">
      <summary className="cursor-pointer font-semibold">Log</summary>
      <div className="mt-2 mb-1 flex flex-wrap items-center gap-2">
        <Select
          label="Outcome"
          className="w-52"
          value={state}
          none="every outcome"
          options={STATES}
          onValue={(value) => {
            anew();
            setState(value);
          }}
        />
        <input
          aria-label="Search the log"
          placeholder="Address"
          value={search}
          onChange={(event) => {
            anew();
            setSearch(event.target.value);
          }}
          className={INPUT.replace("w-full", "w-44")}
        />
        <Button
          onClick={() => {
            anew();
            setTurn((n) => n + 1);
          }}
        >
          Read again
        </Button>
      </div>
      {problem && <p role="alert">{NO_LINE}</p>}
      {lines?.length === 0 && <p className="text-ink-2">Nothing here.</p>}
      {lines && lines.length > 0 && (
        <div className="max-h-[420px] overflow-auto">
          <Table
            label="Log"
            rows={lines}
            keyOf={({ id }) => id}
            columns={[
              {
                title: "To",
                cell: ({ email, reply }) => (
                  <>
                    <span className="break-all">{email}</span>
                    {reply && (
                      <span className="block text-small break-words text-ink-2">{reply}</span>
                    )}
                  </>
                ),
              },
              {
                title: "Outcome",
                cell: ({ state, tries }) => (
                  <>
                    {labelOf(state)}
                    {tries > 0 && (
                      <span className="block text-small text-ink-2">tried {tries + 1} times</span>
                    )}
                  </>
                ),
              },
              { title: "When", cell: ({ when }) => <span className="text-small">{when}</span> },
            ]}
          />
          {more && (
            <Button className="mt-2" onClick={() => setFrom(lines.length)}>
              More
            </Button>
          )}
        </div>
      )}
    </details>
  );
}
