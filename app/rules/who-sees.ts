/** Whom rules reach, and which hold for one person: asked of the server when they change and hands rest. */
import { useEffect, useState } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import type { WhoSees } from "#server/audience/readers.ts";
import { ask as asking } from "../ask.ts";

export type { WhoSees };

const REST_MS = 120;
const isSame = (a: readonly string[], b: readonly string[]) =>
  a.length === b.length && a.every((one, i) => one === b[i]);

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

interface Asked {
  readonly conditions: readonly string[];
  readonly contact: number | null;
  /** Whether all readers are counted. */
  readonly counts: boolean;
}

/**
 * `known` is an answer that is there already. Of a campaign's readers, or with null of all who can be mailed.
 * Without a line the last counts stand, and it is asked again with the next change. Another contact changes no
 * counts: they are not counted again for it, and with `counted` false never.
 */
export function createWhoSees(
  campaign: string | null,
  known: WhoSees | null = null,
  counted = true,
): WhoSeesAsker {
  const path = campaign === null ? "/people" : `/campaigns/${campaign}`;
  const store = createStore<WhoSees | null>(() => known);
  let wanted = known && subject(known.conditions, known.contact);
  let underway = new AbortController();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const stop = () => {
    clearTimeout(timer);
    underway.abort();
  };
  /** The answer that is known, if it has counted by these conditions. */
  const countedBy = (conditions: readonly string[]) => {
    const before = store.getState();
    return before && !before.late && isSame(before.conditions, conditions) ? before : null;
  };
  async function ask(asked: Asked) {
    const { signal } = underway;
    const reply = await asking<WhoSees>(`${path}/who-sees`, { json: asked, signal });
    if (signal.aborted) return;
    if (reply.kind === "ok") {
      const before = counted && !asked.counts ? countedBy(asked.conditions) : null;
      const { late: _, ...told } = reply.body;
      store.setState(before ? { ...told, groups: before.groups } : reply.body, true);
    }
    if (reply.kind !== "away") return;
    const before = store.getState();
    // Nothing is known of this contact: then none of the conditions holds.
    if (before) store.setState({ ...before, contact: asked.contact, bits: "" }, true);
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
      const counts = counted && !countedBy(conditions);
      timer = setTimeout(() => void ask({ conditions, contact, counts }), REST_MS);
    },
    hear(answer) {
      if (subject(answer.conditions, answer.contact) === wanted) store.setState(answer, true);
    },
    stop,
  };
}

/** The latest answer about conditions and a contact. */
export const useWhoSees = (
  campaign: string | null,
  conditions: readonly string[],
  contact: number | null,
): WhoSees | null => useAsker(() => createWhoSees(campaign), { conditions, contact });

/** What holds for a contact, nobody being counted; nothing is asked where there is none. */
export const useWhatHolds = (
  campaign: string,
  conditions: readonly string[],
  contact: number | null,
): WhoSees | null =>
  useAsker(
    () => createWhoSees(campaign, null, false),
    contact === null ? null : { conditions, contact },
  );

function useAsker(make: () => WhoSeesAsker, about: Omit<Asked, "counts"> | null): WhoSees | null {
  const [asker] = useState(make);
  const asked = about && subject(about.conditions, about.contact);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same conditions are asked about once
  useEffect(() => {
    if (about) asker.want(about.conditions, about.contact);
  }, [asker, asked]);
  useEffect(() => asker.stop, [asker]);
  return useStore(asker.store);
}
