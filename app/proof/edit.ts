/** Edits from the proof: made on the email as it was looked at, and stored as any other. */
import { nanoid } from "nanoid";
import { startTransition, useState } from "react";
import { useRevalidator } from "react-router";
import { type Change, type SimpleEdit, together } from "#core/document/index.ts";
import { ask, wordsOf } from "../ask.ts";
import { useToast } from "../ui/toast.tsx";

/** `seq`: the state of the email that was looked at. */
export function useEdits(campaign: string, seq: number) {
  const [busy, setBusy] = useState(false);
  const { revalidate } = useRevalidator();
  const say = useToast();
  /** Does something on the server; the page is read again after it. */
  const doing = async (path: string, json: unknown, done: string | null) => {
    setBusy(true);
    const reply = await ask(path, { json });
    const words = reply.kind === "ok" ? done : wordsOf(reply, "This could not be changed.");
    // One transition, with what the page waits for: it is said when the new page stands there, and nothing moves under
    // the hand of somebody who goes on at once.
    startTransition(async () => {
      await revalidate();
      startTransition(() => {
        setBusy(false);
        if (words) say(words);
      });
    });
  };
  const edit = (edits: readonly SimpleEdit[], done: string) => {
    const step = nanoid(16);
    const change: Change = { id: step, edit: together(edits), does: "do", step, of: null };
    const json = { tab: nanoid(10), base: seq, changes: [change] };
    return doing(`/campaigns/${campaign}/edits`, json, done);
  };
  return { busy, doing, edit };
}
