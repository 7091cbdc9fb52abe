/** Set to leave, not begun yet. */
import type { SubmissionResult } from "@conform-to/react";
import { useEffect } from "react";
import { useRevalidator } from "react-router";
import { FormErrors } from "../ui/field.tsx";
import { Later } from "../ui/later.tsx";
import { readers } from "../ui/words.ts";
import { Doing } from "./doing.tsx";
import type { Found } from "./last-look.tsx";

interface Loaded {
  readonly leaves: string | null;
  /** How it is spread over time, in sentences. */
  readonly paced: readonly string[];
  /** To how many, as things are now; null once it has begun. */
  readonly found: Promise<Found> | null;
  /** Until it leaves, ms. */
  readonly dueIn: number;
}
type Answer = SubmissionResult<string[]> | null | undefined;

/** From when it is due, how often it is asked whether it has started, ms. */
const ASK_MS = 700;

/** The longest that a browser's timer can wait, ms. */
const LONGEST_TIMER = 2 ** 31 - 1;

export function Waiting({ loaded, result }: { loaded: Loaded; result: Answer }) {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    // From the moment it is due, the page asks until it has started.
    const wait = Math.min(LONGEST_TIMER, Math.max(ASK_MS, loaded.dueIn));
    const timer = setTimeout(() => void revalidate(), wait);
    return () => clearTimeout(timer);
  }, [loaded, revalidate]);
  return (
    <div className="flex flex-col gap-4">
      <p className="text-lead">
        Scheduled for <strong>{loaded.leaves}</strong>
        {loaded.found && (
          <>
            {" to "}
            <Later of={loaded.found} until="… readers">
              {(found) => readers(found.readers)}
            </Later>
          </>
        )}
        .
      </p>
      {loaded.paced.map((words) => (
        <p key={words}>{words}</p>
      ))}
      <p className="text-ink-2">
        It is sent as it was when it was scheduled. Where it is changed after that, Compose and
        Readers say so, and offer to replace what goes out.
      </p>
      <FormErrors errors={result?.error?.[""] ?? null} />
      <Doing options={[{ what: "cancel", label: "Cancel schedule" }]} />
    </div>
  );
}
