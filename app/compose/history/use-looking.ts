/** Looking at an earlier state: the sheets show it, and nothing is changed meanwhile. */
import { useCallback, useMemo, useState } from "react";
import type { EmailDocument } from "#core/document/index.ts";
import { createRemote } from "../session/remote.ts";
import type { Session } from "../session/session.ts";
import type { StateAnswer } from "../wire.ts";
import { bringBack } from "./bring-back.ts";

export interface Looking {
  readonly seq: number;
  readonly doc: EmailDocument;
  /** When it was so, and after what. */
  readonly words: string;
}

export interface History {
  /** The panel stands open. */
  readonly open: boolean;
  setOpen(open: boolean): void;
  /** The earlier state that is shown; null while the newest is. */
  readonly looking: Looking | null;
  look(seq: number, words: string): Promise<void>;
  backToNow(): void;
  /** Makes the earlier state the newest. */
  goBack(): void;
  /** Takes one band or block out of it. */
  bring(id: string): void;
}

export function useLooking(
  campaign: string,
  session: Session,
  say: (words: string, tone?: "plain" | "wrong") => void,
): History {
  const [open, setOpen] = useState(false);
  const [looking, setLooking] = useState<Looking | null>(null);
  const look = useCallback(
    async (seq: number, words: string) => {
      await session.finish();
      const state = await createRemote(campaign).ask<StateAnswer>(`history?at=${seq}`);
      if (state) setLooking({ ...state, words });
      else say("This state cannot be shown now.", "wrong");
    },
    [campaign, session, say],
  );
  return useMemo(
    () => ({
      open,
      setOpen: (next) => {
        setOpen(next);
        if (!next) setLooking(null);
      },
      looking,
      look,
      backToNow: () => setLooking(null),
      goBack: () => {
        if (!looking) return;
        if (session.edit({ type: "restore", root: looking.doc.root })) {
          say("The email is as it was then. Undo brings the other state back.");
        }
        setLooking(null);
      },
      bring: (id) => {
        if (!looking) return;
        const doing = bringBack(session.state().doc, looking.doc, id);
        if (!doing) say("It is the same in the email as it is now.");
        else if (session.edit(doing.edit)) say("It is back in the email.");
      },
    }),
    [open, looking, look, session, say],
  );
}
