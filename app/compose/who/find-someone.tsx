/** Finds a reader for whom a combination of parts comes true, and reads as that person. */
import { UserSearch } from "lucide-react";
import { useState } from "react";
import {
  conditionalParts,
  partName,
  reachOf,
  someoneWho,
  type Wish,
} from "#core/versions/index.ts";
import { ruleWords } from "../../rules/words.ts";
import { Button, IconButton } from "../../ui/button.tsx";
import { Popover } from "../../ui/popover.tsx";
import { Select } from "../../ui/select.tsx";
import { count, people } from "../../ui/words.ts";
import { useMessages } from "../messages/messages.ts";
import { fetchReaders } from "../reading/readers.ts";
import { useReading } from "../reading/reading.ts";
import type { ReaderChoice } from "../wire.ts";

type Answer = "any" | "sees" | "not";
const ANSWERS: readonly { value: Answer; label: string }[] = [
  { value: "any", label: "either way" },
  { value: "sees", label: "sees it" },
  { value: "not", label: "does not" },
];

export function FindSomeone({ onReader }: { onReader: (reader: ReaderChoice) => void }) {
  const { doc, whoSees } = useReading("doc", "whoSees");
  const { say } = useMessages();
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState<ReadonlyMap<number, Answer>>(new Map());
  const parts = conditionalParts(doc);
  const wishes = parts.flatMap(({ when }, i): Wish[] => {
    const answer = wanted.get(i) ?? "any";
    return answer === "any" ? [] : [{ when, sees: answer === "sees" }];
  });
  const found = whoSees && someoneWho(wishes, whoSees.conditions, whoSees.groups);
  const read = async () => {
    if (!found) return;
    const [reader] = await fetchReaders({ id: String(found.sample) });
    if (!reader) return say("This person could not be read. Check your connection.", "wrong");
    onReader(reader);
    setOpen(false);
  };
  return (
    <Popover
      label="Find someone who sees"
      open={open}
      onOpenChange={(next) => {
        setWanted(new Map());
        setOpen(next);
      }}
      trigger={
        <IconButton label="Find someone who sees…">
          <UserSearch />
        </IconButton>
      }
    >
      <div className="flex w-96 flex-col gap-2 p-3">
        <h2 className="text-title">Find someone who sees…</h2>
        {parts.length === 0 && (
          <p className="text-ink-2">
            Everybody sees the same. Select a block and choose who sees it, in its settings.
          </p>
        )}
        <ul className="max-h-72 overflow-auto">
          {parts.map((part, i) => (
            <li key={i} className="flex items-center gap-2 border-b py-1.5">
              <span className="min-w-0 flex-1">
                <span className="block truncate font-semibold">{partName(part)}</span>
                <span className="block truncate text-small text-ink-3">
                  {ruleWords(part.seen.seenBy, whoSees, part.seen.chain !== null)}
                  {whoSees && ` · ${count(reachOf(part.when, whoSees.conditions, whoSees.groups))}`}
                </span>
              </span>
              <Select
                label={`${partName(part)}: does this person see it`}
                value={wanted.get(i) ?? "any"}
                options={ANSWERS}
                onValue={(answer) => answer && setWanted(new Map(wanted).set(i, answer))}
                className="w-28 flex-none"
              />
            </li>
          ))}
        </ul>
        {parts.length > 0 && (
          <div className="flex items-center justify-between gap-3">
            <span role="status" className={found ? "text-ink-2" : "text-saffron-ink"}>
              {found ? `${people(found.people)} like that.` : "No matches."}
            </span>
            <Button primary disabled={!found} onClick={() => void read()}>
              Read as one of them
            </Button>
          </div>
        )}
      </div>
    </Popover>
  );
}
