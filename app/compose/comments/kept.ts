/** What has been said about the email: read when the composer stands, and again every while. */
import { createStore } from "zustand";
import { answerTo } from "../../ask.ts";
import type { ShownComment } from "../../review/shown.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";

export interface CommentsState {
  /** Null until they have been read. */
  readonly comments: readonly ShownComment[] | null;
}

export interface KeptComments {
  readonly store: Readable<CommentsState>;
  /** Where they are said. */
  readonly path: string;
  /** Reads them again; without an answer those that are known stay. */
  read(): Promise<void>;
  /** Reads them from now on; gives the way to stop. */
  follow(): () => void;
}

/** What is known is taken as fresh for so long, ms. */
const FRESH_MS = 60_000;

export function createKeptComments(campaign: string): KeptComments {
  const store = createStore<CommentsState>(() => ({ comments: null }));
  const path = `/campaigns/${campaign}/comments`;
  const read = async () => {
    const comments = await answerTo<readonly ShownComment[]>(path);
    if (comments) store.setState({ comments });
  };
  return {
    store,
    path,
    read,
    follow() {
      let timer: ReturnType<typeof setTimeout> | undefined;
      let ended = false;
      const turn = async () => {
        if (document.visibilityState === "visible") await read();
        if (!ended) timer = setTimeout(turn, FRESH_MS);
      };
      void turn();
      return () => {
        ended = true;
        clearTimeout(timer);
      };
    },
  };
}

export const { Provider: CommentsProvider, use: useKeptComments } =
  handedDown<KeptComments>("comments");
export const useComments = readsOf(useKeptComments);

/** Those that are open about a node. */
export const openAt =
  (node: string) =>
  ({ comments }: CommentsState): number =>
    comments?.filter((one) => one.node === node && !one.resolved).length ?? 0;
