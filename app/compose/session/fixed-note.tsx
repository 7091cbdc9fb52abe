/** The sending has begun: nothing can be saved here any more, and nothing that was written is lost. */
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { DraftAnswer } from "../../draft/wire.ts";
import { Button } from "../../ui/button.tsx";
import { counted } from "../../ui/words.ts";
import { createRemote } from "./remote.ts";
import { useSession } from "./session.ts";

/** Over an email that is being sent or has gone out. */
export function SentNote({ reason }: { reason: string }) {
  const { campaign } = useSession();
  return (
    <div
      role="status"
      className="flex items-center gap-3 border-b border-saffron bg-saffron-soft px-3.5 py-1.5 text-small"
    >
      <span className="flex-1">{reason}</span>
      <Link className="link" to={`/campaigns/new?from=campaign:${campaign}`}>
        Start another from it
      </Link>
    </div>
  );
}

/** Over an email whose sending began while changes were on their way. */
export function FixedNote() {
  const { campaign } = useSession();
  const session = useSession();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const navigate = useNavigate();
  const left = session.left();
  const apart = async () => {
    setBusy(true);
    const answer = await createRemote(campaign).tell<DraftAnswer>("draft", {
      do: "apart",
      changes: left,
    });
    setBusy(false);
    if (answer?.ok && answer.body.campaign) {
      session.letGo();
      await navigate(`/campaigns/${answer.body.campaign}`);
    } else setProblem(answer?.body.message ?? "There is no connection; try again in a moment.");
  };
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-3 border-b border-saffron bg-saffron-soft px-3.5 py-1.5 text-small"
    >
      <span className="flex-1">
        It is being sent: {counted(left.length, "change is", "changes are")} not in it.
        {problem && <span className="ml-2 font-semibold text-rust">{problem}</span>}
      </span>
      <Button primary disabled={busy} onClick={() => void apart()}>
        Keep them in a campaign of their own
      </Button>
    </div>
  );
}
