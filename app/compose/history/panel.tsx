/** The history of the email: moments that are kept, and everything that was done. */
import { X } from "lucide-react";
import { type FormEvent, useCallback, useEffect, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { Button, IconButton } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { ago } from "../../ui/words.ts";
import type { PanelProps } from "../panels/panel.ts";
import { createRemote } from "../session/remote.ts";
import { useEmail, useSession } from "../session/session.ts";
import type { HistoryAnswer, HistoryStep, Moment } from "../wire.ts";
import { useLookBack, useLooking } from "./looking.ts";

/** How long the list waits after a change before it is read again, ms. */
const REST_MS = 600;

const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone;
const when = (at: string) => ago(new Date(at), new Date(), HERE);

function Row({
  seq,
  title,
  about,
  quiet = false,
  onDrop,
}: {
  seq: number;
  title: string;
  about: string;
  quiet?: boolean;
  onDrop?: () => void;
}) {
  const history = useLookBack();
  const on = useLooking(({ looking }) => looking?.seq === seq);
  return (
    <li className="flex items-start">
      <button
        type="button"
        aria-pressed={on}
        data-seq={seq}
        onClick={() => void history.look(seq, `${title}, ${about}`)}
        className={`min-w-0 flex-1 border-l-[3px] py-1 pl-2.5 text-left focus-visible:-outline-offset-2 ${on ? "border-plum bg-plum-soft" : "border-transparent hover:bg-bench"}`}
      >
        <span className={`block text-small ${quiet ? "text-ink-3" : "font-semibold"}`}>
          {title}
        </span>
        <span className="block text-small text-ink-3">{about}</span>
      </button>
      {onDrop && (
        <IconButton label={`Keep “${title}” no longer`} onClick={onDrop}>
          <X />
        </IconButton>
      )}
    </li>
  );
}

function Keep({ onKept }: { onKept: (moments: readonly Moment[]) => void }) {
  const session = useSession();
  const { campaign } = useSession();
  const [name, setName] = useState("");
  const [error, setError] = useState<string | null>(null);
  const keep = async (event: FormEvent) => {
    event.preventDefault();
    await session.finish();
    const answer = await createRemote(campaign).tell<HistoryAnswer>("history", {
      do: "keep",
      name,
    });
    if (answer?.ok) {
      setError(null);
      setName("");
      onKept(answer.body.moments);
    } else {
      const lost = "There is no connection; try again in a moment.";
      setError(answer ? (answer.body.message ?? "It was not kept.") : lost);
    }
  };
  return (
    <form onSubmit={keep} className="flex items-end gap-2">
      <div className="min-w-0 flex-1">
        <Field label="Keep this moment as" errors={error ? [error] : null}>
          {(ids) => (
            <input
              {...ids}
              value={name}
              maxLength={LIMITS.nameLength}
              placeholder="Before the meeting"
              className={INPUT}
              onChange={(event) => setName(event.target.value)}
            />
          )}
        </Field>
      </div>
      <Button type="submit">Keep</Button>
    </form>
  );
}

export default function HistoryPanel({ onClose }: PanelProps) {
  const session = useSession();
  const { campaign } = session;
  const { doc: newest } = useEmail("doc");
  const { backToNow } = useLookBack();
  const [steps, setSteps] = useState<readonly HistoryStep[] | null>(null);
  const [moments, setMoments] = useState<readonly Moment[]>([]);
  const read = useCallback(async () => {
    const answer = await createRemote(campaign).ask<HistoryAnswer>("history");
    // Without an answer the list stays as it was; it is read again with the next change.
    if (!answer) return;
    setSteps(answer.steps);
    setMoments(answer.moments);
  }, [campaign]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: every change of the email is a reason to read again
  useEffect(() => {
    const timer = setTimeout(
      async () => {
        await session.finish();
        await read();
      },
      steps === null ? 0 : REST_MS,
    );
    return () => clearTimeout(timer);
  }, [newest, session, read]);
  // With the panel goes what it has shown.
  useEffect(() => backToNow, [backToNow]);
  const drop = async (id: string) => {
    await createRemote(campaign).tell("history", { do: "drop", id });
    await read();
  };
  return (
    <aside
      aria-label="History"
      className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l p-3.5 pb-8"
    >
      <div className="flex items-center justify-between">
        <h2 className="text-title">History</h2>
        <IconButton label="Close the history" onClick={onClose}>
          <X />
        </IconButton>
      </div>
      <Keep onKept={setMoments} />
      <section>
        <h3 className="mb-1 text-lead">Kept moments</h3>
        {moments.length === 0 && (
          <p className="text-small text-ink-3">
            None yet. One is kept automatically before every big step.
          </p>
        )}
        <ul className="-mx-1.5">
          {moments.map((moment) => (
            <Row
              key={moment.id}
              seq={moment.seq}
              title={moment.name}
              about={`${when(moment.at)} · ${moment.automatic ? "by itself" : moment.person}`}
              quiet={moment.automatic}
              onDrop={() => void drop(moment.id)}
            />
          ))}
        </ul>
      </section>
      <section>
        <h3 className="mb-1 text-lead">What was done</h3>
        {steps === null ? (
          <p className="text-small text-ink-3">One moment…</p>
        ) : (
          <ul className="-mx-1.5">
            {steps.map((step) => (
              <Row
                key={step.seq}
                seq={step.seq}
                title={step.words}
                about={`${when(step.at)} · ${step.person}`}
                quiet={step.undone}
              />
            ))}
            <Row seq={0} title="How it began" about="" quiet />
          </ul>
        )}
        {steps !== null && steps.length >= LIMITS.historySteps && (
          <p className="mt-1 text-small text-ink-3">
            The latest {LIMITS.historySteps} steps are listed.
          </p>
        )}
      </section>
    </aside>
  );
}
