/** On its way, standing still, or gone: how far it is, and what can be done. */
import type { SubmissionResult } from "@conform-to/react";
import { useEffect, useRef, useState } from "react";
import { Link, useRevalidator } from "react-router";
import type { Pause } from "#core/delivery/index.ts";
import type { Progress } from "#server/store/launches/progress.ts";
import { FormErrors } from "../ui/field.tsx";
import { Figure } from "../ui/page.tsx";
import { count, counted, lasting, people, readers } from "../ui/words.ts";
import { Doing, type Option } from "./doing.tsx";
import { followSending } from "./following.ts";
import { Log } from "./log.tsx";

export interface SendingData {
  readonly id: string;
  /** When it was so, ms: the later of two counts. */
  readonly at: number;
  readonly state: "sending" | "sent";
  readonly progress: Progress;
  readonly standing: {
    readonly why: Pause | null;
    readonly reason: string | null;
    /** When it tries by itself, in words; null where a person is waited for. */
    readonly again: string | null;
    readonly starting: boolean;
    readonly trouble: string | null;
  };
  /** When the next go out, where that is not now. */
  readonly next: string | null;
  /** Percent of readers who may bounce. */
  readonly bounceShare: number;
  readonly unsure: readonly { readonly email: string; readonly reply: string | null }[];
}

const settledOf = (p: Progress) =>
  p.accepted + p.bounced + p.refused + p.held + p.unsure + p.left + p.cancelled + p.control;

/** Why it stands still, in a sentence and what may be done about it. */
const WORDS: Record<Pause, (data: SendingData) => { title: string; about: string }> = {
  person: () => ({ title: "Paused", about: "Nothing goes out until somebody resumes it." }),
  service: ({ standing }) => ({
    title: "The mail service takes nothing",
    about: `It is not about the readers, and none of them is marked. Septima tries again ${standing.again ?? "when it is resumed"}, then less and less often.`,
  }),
  connection: ({ standing }) => ({
    title: "The mail service cannot be reached",
    about: `Nobody's message is lost. Septima tries again ${standing.again ?? "when it is resumed"}, then less and less often.`,
  }),
  message: ({ progress }) => ({
    title: "The mail service refuses what is in the email",
    about: `${count(progress.refused)} of the last messages were refused. Speak with whoever runs the service before you resume: those are then tried again.`,
  }),
  bounces: ({ progress, bounceShare }) => ({
    title: "Many addresses bounce",
    about: `${count(progress.bounced)} of ${count(progress.bounced + progress.accepted)} so far, more than the ${bounceShare} % that Settings allow. An old or a bought list looks like this, and services take it ill.`,
  }),
  items: () => ({
    title: "Something it shows has changed",
    about:
      "Nobody has got it yet. Resume to send it all the same, or cancel it and look at the email again.",
  }),
  split: ({ progress }) => ({
    title: "The A/B test waits for you",
    about: `Its variants have gone out. ${readers(progress.rest)} wait until somebody says in Results which one they get.`,
  }),
  unsure: ({ progress }) => ({
    title: `Nobody knows whether ${people(progress.unsure)} got it`,
    about:
      "Their messages had gone when the connection broke, and the service did not answer. Send them again, and some may get it twice; leave them, and some may not get it at all.",
  }),
};

function optionsOf({ standing, progress }: SendingData): Option[] {
  const left = progress.total - settledOf(progress);
  const stop: Option = {
    what: "stop",
    label: "Cancel the rest",
    sure: `${readers(left)} would not get it. ${readers(progress.accepted)} ${progress.accepted === 1 ? "has" : "have"} it already.`,
  };
  if (standing.why === null) return [{ what: "pause", label: "Pause" }, stop];
  if (standing.why === "unsure") {
    const n = people(progress.unsure);
    return [
      { what: "again", label: `Send again to ${n}`, sure: "Some of them may get it twice." },
      { what: "leave", label: "Leave them", sure: "Some of them may not have got it." },
    ];
  }
  if (standing.why === "split") return [stop];
  const label = standing.again ? "Try now" : "Resume";
  return [{ what: "resume", label, primary: true }, stop];
}

function Notice({ data }: { data: SendingData }) {
  const { why, reason } = data.standing;
  if (!why) return null;
  const { title, about } = WORDS[why](data);
  return (
    <section
      role="status"
      className="flex flex-col gap-2 rounded-md border border-saffron bg-saffron-soft px-4 py-3"
    >
      <h2 className="text-title">{title}</h2>
      <p>{about}</p>
      {why === "split" && (
        <Link className="link" to={`/campaigns/${data.id}/results`}>
          See how they stand
        </Link>
      )}
      {reason && (
        <p className="text-small text-ink-2">
          {why === "items" || why === "split" ? (
            <strong>{reason}</strong>
          ) : (
            <>
              It said: <q className="break-words">{reason}</q>
            </>
          )}
        </p>
      )}
      {why === "unsure" && (
        <details className="text-small">
          <summary className="cursor-pointer">Who they are</summary>
          <ul className="mt-1 max-h-40 overflow-auto">
            {data.unsure.map(({ email }) => (
              <li key={email}>{email}</li>
            ))}
          </ul>
          {data.progress.unsure > data.unsure.length && (
            <p>and {counted(data.progress.unsure - data.unsure.length, "other")}</p>
          )}
        </details>
      )}
    </section>
  );
}

/** Looks on while it is sent: gives what is known by now. The page is loaded anew when it comes to stand or to its end. */
function useSending(loaded: SendingData): SendingData {
  const { revalidate } = useRevalidator();
  const [told, setTold] = useState<SendingData | null>(null);
  const data = told && told.at > loaded.at ? told : loaded;
  const done = data.state === "sent";
  const { id } = loaded;
  useEffect(() => (done ? undefined : followSending(id, setTold)), [done, id]);
  const turned = data.state !== loaded.state || data.standing.why !== loaded.standing.why;
  useEffect(() => {
    if (turned) void revalidate();
  }, [turned, revalidate]);
  return data;
}

/** Over how long it is looked at how quickly it goes, ms. */
const RATE_MS = 20_000;

/** Messages a second at this moment; null while nobody knows. */
function useRate({ at, progress }: SendingData): number | null {
  const seen = useRef<{ at: number; settled: number }[]>([]);
  const settled = settledOf(progress);
  const last = seen.current.at(-1);
  if (!last || at > last.at) {
    seen.current = [...seen.current.filter((one) => one.at > at - RATE_MS), { at, settled }];
  }
  const [first] = seen.current;
  const ms = first ? at - first.at : 0;
  return first && ms > 1_000 && settled > first.settled
    ? ((settled - first.settled) * 1000) / ms
    : null;
}

export function Sending({
  data: loaded,
  result,
}: {
  data: SendingData;
  result: SubmissionResult<string[]> | null | undefined;
}) {
  const data = useSending(loaded);
  const { progress, standing } = data;
  const done = data.state === "sent";
  const settled = settledOf(progress);
  const rate = useRate(data);
  const left = progress.total - settled - progress.rest;
  const share = progress.total ? Math.round((100 * settled) / progress.total) : 0;
  const how = done
    ? progress.cancelled > 0
      ? `It was cancelled half-way: ${readers(progress.cancelled)} did not get it.`
      : "It has been sent."
    : standing.starting
      ? `Its readers are being written down: ${count(progress.total)} so far.`
      : `${standing.why ? "Sent so far" : "Being sent"}: ${count(settled)} of ${count(progress.total)}.`;
  const also = [
    [progress.deferred, "tried again later", undefined],
    [progress.refused, "refused for its content", undefined],
    [progress.held, "suppressed", "left since it was started"],
    [progress.left, "not known", "not sent again"],
    [progress.rest, "wait", "for the A/B test"],
    [progress.control, "get nothing", "the control group"],
  ] as const;
  return (
    <div className="flex flex-col gap-5">
      <Notice data={data} />
      {standing.trouble && !standing.why && (
        <p role="status" className="text-rust">
          It is delayed on our side: {standing.trouble}. It is tried again by itself.
        </p>
      )}
      <p className="text-lead" role="status">
        {how}
      </p>
      {!done && !standing.why && !standing.starting && !data.next && rate !== null && (
        <p className="text-ink-2">
          {count(Math.round(rate))} a second{left > 0 && `, done in ${lasting(left / rate)}`}.
        </p>
      )}
      {data.next && !standing.why && (
        <p className="text-ink-2">
          {readers(progress.total - settled)} {progress.total - settled === 1 ? "waits" : "wait"}{" "}
          for their time; the next go out on {data.next}.
        </p>
      )}
      <div
        role="progressbar"
        aria-label="Sent"
        aria-valuenow={share}
        aria-valuemin={0}
        aria-valuemax={100}
        className="h-2 overflow-hidden rounded-full bg-bench"
      >
        <div className="h-full bg-leaf" style={{ width: `${share}%` }} />
      </div>
      <div className="flex flex-wrap gap-8">
        <Figure value={count(progress.accepted)} label="accepted" />
        <Figure value={count(progress.bounced)} label="bounced" />
        {also.map(
          ([n, label, note]) =>
            n > 0 && <Figure key={label} value={count(n)} label={label} note={note} />,
        )}
      </div>
      <FormErrors errors={result?.error?.[""] ?? null} />
      {!done && <Doing options={optionsOf(data)} />}
      {done && (
        <Link className="link" to={`/campaigns/${data.id}/results`}>
          See the results
        </Link>
      )}
      <Log campaign={data.id} />
    </div>
  );
}
