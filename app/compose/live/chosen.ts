/** The items that the blocks of the email show its reader: asked of the server when what chooses them changes. */
import { createStore } from "zustand";
import { choicesIn, type NamedChoice } from "#core/blocks/choices.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { LiveList, Picture } from "#core/kinds/kind.ts";
import { ask } from "../../ask.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { ChosenAnswer, Spread } from "../wire.ts";

type ShownItems = ChosenAnswer["lists"][number][1];

export interface ChosenState {
  /** What the sheets show, by node. */
  readonly live: ReadonlyMap<string, LiveList>;
  /** The same with the reasons. */
  readonly shown: ReadonlyMap<string, ShownItems>;
  readonly words: ReadonlyMap<string, string>;
  /** Nothing came, and it is asked again. */
  readonly away: boolean;
}

export interface ChosenItems {
  readonly store: Readable<ChosenState>;
  /** Asks about these choices for this contact, unless that is what is known or being asked. */
  want(doc: EmailDocument, contact: number | null): void;
  /** Counts what all readers have at a node; null where nobody answers. */
  count(doc: EmailDocument, node: string): Promise<Spread | null>;
  /** Asks again every now and then, as items change; gives the way to stop. */
  follow(): () => void;
}

const REST_MS = 150;
/** After how long it is asked again without an answer, and to hear of changes, ms. */
const AGAIN_MS = 4_000;
const FRESH_MS = 60_000;

const same = (a: ShownItems | undefined, b: ShownItems) =>
  a !== undefined && JSON.stringify(a) === JSON.stringify(b);

/** What is known after an answer; lists that say the same stay the same object. */
function heard({ lists, words }: ChosenAnswer, before: ChosenState): ChosenState {
  const shown = new Map(
    lists.map(([node, items]) => {
      const old = before.shown.get(node);
      return [node, same(old, items) ? old! : items];
    }),
  );
  const live = new Map(
    [...shown].map(([node, items]): [string, LiveList] => {
      const old = before.live.get(node);
      return [
        node,
        old && before.shown.get(node) === items
          ? old
          : { items: items.map(({ item }) => item), perReader: null },
      ];
    }),
  );
  const isSame =
    live.size === before.live.size && [...live].every(([k, v]) => before.live.get(k) === v);
  return { live: isSame ? before.live : live, shown, words: new Map(words), away: false };
}

const EMPTY: ChosenState = { live: new Map(), shown: new Map(), words: new Map(), away: false };

export function createChosenItems(
  campaign: string,
  start: {
    readonly doc: EmailDocument;
    readonly contact: number | null;
    readonly answer: ChosenAnswer;
  },
  onPictures: (pictures: readonly Picture[]) => void,
): ChosenItems {
  const store = createStore<ChosenState>(() => heard(start.answer, EMPTY));
  const path = `/campaigns/${campaign}/chosen`;
  const keyOf = (choices: readonly NamedChoice[], contact: number | null) =>
    choices.length === 0 ? "" : JSON.stringify([choices, contact]);
  let last: { doc: EmailDocument; contact: number | null } = start;
  let wanted = keyOf(choicesIn(start.doc), start.contact);
  let timer: ReturnType<typeof setTimeout> | undefined;
  let underway = new AbortController();
  let waiting = 0;

  async function asked(choices: readonly NamedChoice[], contact: number | null): Promise<void> {
    underway.abort();
    underway = new AbortController();
    const { signal } = underway;
    waiting++;
    const reply = await ask<ChosenAnswer>(path, { json: { choices, contact }, signal });
    waiting--;
    if (signal.aborted) return;
    if (reply.kind === "ok") {
      // The pictures first: a list that is drawn has its own.
      onPictures(reply.body.pictures);
      store.setState(heard(reply.body, store.getState()), true);
    } else if (reply.kind === "away") {
      store.setState({ ...store.getState(), away: true }, true);
      timer = setTimeout(() => void asked(choices, contact), AGAIN_MS);
    }
  }

  return {
    store,
    want(doc, contact) {
      if (doc === last.doc && contact === last.contact) return;
      last = { doc, contact };
      const choices = choicesIn(doc);
      const key = keyOf(choices, contact);
      if (key === wanted) return;
      wanted = key;
      clearTimeout(timer);
      if (choices.length === 0) return;
      timer = setTimeout(() => void asked(choices, contact), REST_MS);
    },
    async count(doc, node) {
      const choices = choicesIn(doc);
      const reply = await ask<ChosenAnswer>(path, {
        json: { choices, contact: null, spread: node },
      });
      return reply.kind === "ok" ? reply.body.spread : null;
    },
    follow() {
      const every = setInterval(() => {
        // An answer that takes long is waited for.
        if (waiting > 0) return;
        const choices = choicesIn(last.doc);
        if (choices.length > 0 && document.visibilityState === "visible") {
          void asked(choices, last.contact);
        }
      }, FRESH_MS);
      return () => {
        clearInterval(every);
        clearTimeout(timer);
        underway.abort();
      };
    },
  };
}

export const { Provider: ChosenItemsProvider, use: useChosenItems } =
  handedDown<ChosenItems>("chosen items");
export const useChosen = readsOf(useChosenItems);
