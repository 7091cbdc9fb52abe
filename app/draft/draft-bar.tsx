/** Over the draft of a scheduled campaign: what is not in what goes out, and what can be done about it. */
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { createRemote } from "../compose/session/remote.ts";
import { Button } from "../ui/button.tsx";
import { useToast } from "../ui/toast.tsx";
import { counted } from "../ui/words.ts";
import type { DraftAnswer, DraftState } from "./wire.ts";

function wordsOf({ edits, audience }: DraftState): string {
  const changes = counted(edits, "change is", "changes are");
  const chosen = "who gets it has been chosen anew, and that is";
  if (edits === 0) return `Since it was scheduled ${chosen} not in what goes out.`;
  const email = `${changes} not in what goes out`;
  return audience ? `${email}, nor who gets it as it is chosen now.` : `${email}.`;
}

/** For how long nothing has been saved, ms. */
const REST_MS = 800;

export function DraftBar({
  campaign,
  changed,
  settled,
  children,
}: {
  campaign: string;
  /** Changes whenever the draft may have. */
  changed: unknown;
  /** Resolves when nothing is on its way any more: what is seen here is then what is stored. */
  settled?: () => Promise<unknown>;
  /** Further ways, beside those the bar has itself. */
  children?: (draft: DraftState) => ReactNode;
}) {
  const [draft, setDraft] = useState<DraftState | null>(null);
  const [busy, setBusy] = useState(false);
  const { revalidate } = useRevalidator();
  const say = useToast();
  const look = useCallback(async () => {
    const answer = await createRemote(campaign).ask<DraftAnswer>("draft");
    if (answer) setDraft(answer.draft);
  }, [campaign]);
  // Asked again when the draft has changed and the hands rest.
  const asked = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the draft has changed
  useEffect(() => {
    const timer = setTimeout(() => void look(), asked.current ? REST_MS : 0);
    asked.current = true;
    return () => clearTimeout(timer);
  }, [look, changed]);
  if (!draft || (draft.edits === 0 && !draft.audience)) return null;
  const act = async (what: "replace" | "discard", done: string) => {
    setBusy(true);
    await settled?.();
    const answer = await createRemote(campaign).tell<DraftAnswer>("draft", { do: what });
    setBusy(false);
    if (answer?.ok) say(done);
    else say(answer?.body.message ?? "There is no connection; try again in a moment.", "wrong");
    await look();
    void revalidate();
  };
  return (
    <div
      role="status"
      aria-label="Scheduled"
      className="flex flex-wrap items-center gap-2 border-b border-saffron bg-saffron-soft px-3.5 py-1.5 text-small"
    >
      <span className="min-w-0 flex-1">
        <strong>It is scheduled.</strong> {wordsOf(draft)}
      </span>
      {children?.(draft)}
      <Button
        primary
        disabled={busy}
        onClick={() => void act("replace", "What goes out is as it is here now.")}
      >
        Replace what goes out
      </Button>
      <Button
        disabled={busy}
        onClick={() => void act("discard", "The draft is what goes out again.")}
      >
        Discard the changes
      </Button>
    </div>
  );
}
