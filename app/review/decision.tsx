/** A reviewer's yes or no, to the very state that was shown. */
import { startTransition, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import type { Standing } from "#core/reviews/index.ts";
import type { Since } from "#server/reviews/deciding.ts";
import { ask, wordsOf } from "../ask.ts";
import { Button } from "../ui/button.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { useToast } from "../ui/toast.tsx";

const SAID: Record<Standing, string> = {
  waiting: "You have not decided yet.",
  approved: "You have approved the email as it is now.",
  asked: "You have asked for changes.",
  stale: "You have approved it, and it has changed since.",
};

/** What has changed since somebody decided. */
export function Changes({ since }: { since: Since }) {
  const { steps, readers, items } = since;
  return (
    <div className="text-small text-ink-2">
      {(steps.length > 0 || readers) && (
        <>
          <p className="font-semibold">Changed since:</p>
          <ul className="ml-4 list-disc">
            {readers && <li>Who gets it</li>}
            {steps.map((step, i) => (
              <li key={i}>{step}</li>
            ))}
          </ul>
        </>
      )}
      {items.length > 0 && (
        <>
          <p className="font-semibold">Items that came and went by themselves:</p>
          <ul className="ml-4 list-disc">
            {items.map((item) => (
              <li key={item}>{item}</li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

export function Decide({
  path,
  state,
  standing,
  since,
  onDecided,
}: {
  /** Where it is said. */
  path: string;
  /** The state that is shown. */
  state: { readonly content: string; readonly audience: string };
  standing: Standing;
  since: Since | null;
  /** Reads the page anew. */
  onDecided: () => Promise<void>;
}) {
  const [note, setNote] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const say = useToast();
  const decide = async (approves: boolean) => {
    setBusy(true);
    const reply = await ask(path, { json: { do: "decide", approves, note, ...state } });
    // Said together with the page as it is now: the next word is about that.
    startTransition(async () => {
      await onDecided();
      startTransition(() => {
        setBusy(false);
        setProblem(reply.kind === "ok" ? null : wordsOf(reply, "This could not be kept."));
        if (reply.kind !== "ok") return;
        setNote("");
        say(approves ? "You have approved it" : "You have asked for changes");
      });
    });
  };
  return (
    <section aria-label="Your decision" className="flex flex-col gap-2.5">
      <h2 className="text-head">Your decision</h2>
      <p role="status" className="text-body">
        {SAID[standing]}
      </p>
      {since && <Changes since={since} />}
      <Field label="A note with it" errors={problem ? [problem] : null}>
        {(ids) => (
          <textarea
            {...ids}
            rows={2}
            maxLength={LIMITS.commentLength}
            className={INPUT}
            value={note}
            onChange={(event) => setNote(event.currentTarget.value)}
          />
        )}
      </Field>
      <div className="flex flex-wrap gap-2">
        <Button primary disabled={busy} onClick={() => void decide(true)}>
          Approve
        </Button>
        <Button disabled={busy} onClick={() => void decide(false)}>
          Ask for changes
        </Button>
      </div>
    </section>
  );
}
