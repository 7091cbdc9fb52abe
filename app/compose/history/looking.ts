/** Looking at an earlier state: the sheets show it, and nothing is changed meanwhile. */
import { createStore } from "zustand";
import type { EmailDocument } from "#core/document/index.ts";
import type { Messages } from "../messages/messages.ts";
import { createRemote } from "../session/remote.ts";
import type { Session } from "../session/session.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { StateAnswer } from "../wire.ts";
import { bringBack } from "./bring-back.ts";

export interface Looking {
  readonly seq: number;
  readonly doc: EmailDocument;
  /** When it was so, and after what. */
  readonly words: string;
}

export interface LookingState {
  /** The earlier state that is shown; null while the newest is. */
  readonly looking: Looking | null;
}

export interface LookBack {
  readonly store: Readable<LookingState>;
  look(seq: number, words: string): Promise<void>;
  backToNow(): void;
  /** Makes the earlier state the newest. */
  goBack(): void;
  /** Takes one band or block out of it. */
  bring(id: string): void;
}

export function createLookBack(session: Session, { say }: Pick<Messages, "say">): LookBack {
  const store = createStore<LookingState>(() => ({ looking: null }));
  const backToNow = () => store.setState({ looking: null });
  return {
    store,
    async look(seq, words) {
      await session.finish();
      const state = await createRemote(session.campaign).ask<StateAnswer>(`history?at=${seq}`);
      if (state) store.setState({ looking: { ...state, words } });
      else say("This state cannot be shown now.", "wrong");
    },
    backToNow,
    goBack() {
      const { looking } = store.getState();
      if (!looking) return;
      if (session.edit({ type: "restore", root: looking.doc.root })) {
        say("The email is as it was then. Undo brings the other state back.");
      }
      backToNow();
    },
    bring(id) {
      const { looking } = store.getState();
      if (!looking) return;
      const doing = bringBack(session.state().doc, looking.doc, id);
      if (!doing) say("It is the same in the email as it is now.");
      else if (session.edit(doing.edit)) say("It is back in the email.");
    },
  };
}

export const { Provider: LookBackProvider, use: useLookBack } = handedDown<LookBack>("history");
export const useLooking = readsOf(useLookBack);
