/** Comments on an email, each with its replies: by the team and by those who look at it. */
import clsx from "clsx";
import { type FormEvent, useId, useState } from "react";
import { LIMITS } from "#core/limits.ts";
import { ask, wordsOf } from "../ask.ts";
import { Button } from "../ui/button.tsx";
import { Field, INPUT } from "../ui/field.tsx";
import { Select } from "../ui/select.tsx";
import { useToast } from "../ui/toast.tsx";
import type { ShownComment } from "./shown.ts";

/** Says something at `path`; gives what is wrong with it, or null. */
const say = async (path: string, json: unknown): Promise<string | null> => {
  const reply = await ask(path, { json });
  return reply.kind === "ok" ? null : wordsOf(reply, "This could not be kept.");
};

/** A few words, kept until they have been taken. */
export function SayBox({
  label,
  hint,
  button,
  onSay,
}: {
  label: string;
  hint?: string;
  button: string;
  /** Gives what is wrong, or null. */
  onSay: (words: string) => Promise<string | null>;
}) {
  const [words, setWords] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    setBusy(true);
    const wrong = words.trim() === "" ? "Write something." : await onSay(words);
    setBusy(false);
    setProblem(wrong);
    if (wrong === null) setWords("");
  };
  return (
    <form onSubmit={send} className="flex flex-col gap-2" aria-busy={busy || undefined}>
      <Field label={label} hint={hint} errors={problem ? [problem] : null}>
        {(ids) => (
          <textarea
            {...ids}
            rows={3}
            maxLength={LIMITS.commentLength}
            className={INPUT}
            value={words}
            onChange={(event) => setWords(event.currentTarget.value)}
          />
        )}
      </Field>
      <div>
        <Button type="submit" disabled={busy}>
          {button}
        </Button>
      </div>
    </form>
  );
}

const Words = ({
  of: { author, at, words },
}: {
  of: Pick<ShownComment, "author" | "at" | "words">;
}) => (
  <>
    <p className="text-small text-ink-2">
      <strong className="text-ink">{author}</strong> · {at}
    </p>
    <p className="text-body break-words whitespace-pre-line">{words}</p>
  </>
);

function Thread({
  comment,
  path,
  onSaid,
  onShow,
}: {
  comment: ShownComment;
  path: string;
  onSaid: () => void;
  onShow: ((node: string) => void) | null;
}) {
  const [answering, setAnswering] = useState(false);
  const toast = useToast();
  const { id, node, place, resolved, replies } = comment;
  const told = async (json: unknown) => {
    const problem = await say(path, json);
    if (problem === null) onSaid();
    return problem;
  };
  const resolve = async () => {
    const problem = await told({ do: "resolve", comment: id, resolved: !resolved });
    if (problem) toast(problem, "wrong");
  };
  return (
    <li className={clsx("border-b py-2.5", resolved && "text-ink-2")} data-comment={id}>
      {node !== null && place !== null && onShow ? (
        <button type="button" className="link text-small" onClick={() => onShow(node)}>
          {place}
        </button>
      ) : (
        <span className="text-small text-ink-2">{place ?? "A block that is gone"}</span>
      )}
      <Words of={comment} />
      {replies.length > 0 && (
        <ul className="mt-1.5 ml-3 flex flex-col gap-1.5 border-l pl-3">
          {replies.map((reply) => (
            <li key={reply.id}>
              <Words of={reply} />
            </li>
          ))}
        </ul>
      )}
      <div className="mt-1 flex gap-3">
        <button
          type="button"
          className="link"
          aria-expanded={answering}
          onClick={() => setAnswering(!answering)}
        >
          Reply
        </button>
        <button type="button" className="link" onClick={() => void resolve()}>
          {resolved ? "Open it again" : "Resolve"}
        </button>
      </div>
      {answering && (
        <SayBox
          label="Your reply"
          button="Send the reply"
          onSay={async (words) => {
            const problem = await told({ do: "comment", words, node: null, replyTo: id });
            if (problem === null) setAnswering(false);
            return problem;
          }}
        />
      )}
    </li>
  );
}

export function Comments({
  comments,
  places,
  about,
  path,
  onAbout,
  onSaid,
  onShow = null,
}: {
  comments: readonly ShownComment[];
  /** What they can be about, beside the whole email. */
  places: readonly { value: string; label: string }[];
  /** What the next one is about: a node, or "" for the whole. */
  about: string;
  onAbout: (node: string) => void;
  /** Where they are said. */
  path: string;
  onSaid: () => void;
  /** Leads to a node. */
  onShow?: ((node: string) => void) | null;
}) {
  const [old, setOld] = useState(false);
  const id = useId();
  const resolved = comments.filter((one) => one.resolved);
  const shown = old ? comments : comments.filter((one) => !one.resolved);
  return (
    <section aria-labelledby={id}>
      <div className="mb-1 flex items-baseline justify-between gap-2">
        <h2 id={id} className="text-head">
          Comments
        </h2>
        {resolved.length > 0 && (
          <button type="button" className="link text-small" onClick={() => setOld(!old)}>
            {old ? "Hide the resolved" : `Show ${resolved.length} resolved`}
          </button>
        )}
      </div>
      {shown.length === 0 && <p className="text-body text-ink-2">Nothing has been said yet.</p>}
      <ul>
        {shown.map((comment) => (
          <Thread key={comment.id} comment={comment} path={path} onSaid={onSaid} onShow={onShow} />
        ))}
      </ul>
      <div className="mt-3 flex flex-col gap-2">
        <Select
          label="About"
          none="The whole email"
          options={places}
          value={about}
          onValue={onAbout}
        />
        <SayBox
          label="A comment"
          hint="The team sees it, and everybody with a link."
          button="Comment"
          onSay={async (words) => {
            const node = about || null;
            const problem = await say(path, { do: "comment", words, node, replyTo: null });
            if (problem === null) onSaid();
            return problem;
          }}
        />
      </div>
    </section>
  );
}
