/** Whom rules reach, and which hold for one person: asked of the server when they change and hands rest. */
import { useEffect, useState } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import type { WhoSees } from "#server/audience/readers.ts";
import { ask as asking } from "../ask.ts";

export type { WhoSees };

const REST_MS = 120;

export interface WhoSeesAsker {
  /** The latest answer. */
  readonly store: StoreApi<WhoSees | null>;
  /** Asks about these conditions and this contact, unless that is what is known. */
  want(conditions: readonly string[], contact: number | null): void;
  /** Takes an answer that came another way, if it is still what is wanted. */
  hear(answer: WhoSees): void;
  stop(): void;
}

const subject = (conditions: readonly string[], contact: number | null) =>
  JSON.stringify({ conditions, contact });

/**
 * `known` is an answer that is there already. Of a campaign's readers, or with null of all who can be mailed.
 * Without a line the last counts stand, and it is asked again with the next change.
 */
export function createWhoSees(campaign: string | null, known: WhoSees | null = null): WhoSeesAsker {
  const path = campaign === null ? "/people" : `/campaigns/${campaign}`;
  const store = createStore<WhoSees | null>(() => known);
  let wanted = known && subject(known.conditions, known.contact);
  let underway = new AbortController();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const stop = () => {
    clearTimeout(timer);
    underway.abort();
  };
  async function ask(json: unknown, contact: number | null) {
    const { signal } = underway;
    const reply = await asking<WhoSees>(`${path}/who-sees`, { json, signal });
    if (signal.aborted) return;
    if (reply.kind === "ok") store.setState(reply.body, true);
    if (reply.kind !== "away") return;
    const before = store.getState();
    // Nothing is known of this contact: then none of the conditions holds.
    if (before) store.setState({ ...before, contact, bits: "" }, true);
    wanted = null;
  }
  return {
    store,
    want(conditions, contact) {
      const asked = subject(conditions, contact);
      if (asked === wanted) return;
      stop();
      wanted = asked;
      underway = new AbortController();
      timer = setTimeout(() => void ask({ conditions, contact }, contact), REST_MS);
    },
    hear(answer) {
      if (subject(answer.conditions, answer.contact) === wanted) store.setState(answer, true);
    },
    stop,
  };
}

/** The latest answer about conditions and a contact. */
export function useWhoSees(
  campaign: string | null,
  conditions: readonly string[],
  contact: number | null,
): WhoSees | null {
  const [asker] = useState(() => createWhoSees(campaign));
  const asked = subject(conditions, contact);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same conditions are asked about once
  useEffect(() => asker.want(conditions, contact), [asker, asked]);
  useEffect(() => asker.stop, [asker]);
  return useStore(asker.store);
}
