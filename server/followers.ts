/** Followers of a document: tabs that hear of every edit as it is stored. */
import type { StoredEdit } from "#core/document/index.ts";

type Listener = (edits: readonly StoredEdit[]) => void;

export interface Followers {
  follow(documentId: string, listener: Listener): () => void;
  tell(documentId: string, edits: readonly StoredEdit[]): void;
}

export function createFollowers(): Followers {
  const listeners = new Map<string, Set<Listener>>();
  return {
    follow(documentId, listener) {
      const set = listeners.get(documentId) ?? new Set();
      listeners.set(documentId, set.add(listener));
      return () => {
        set.delete(listener);
        if (set.size === 0) listeners.delete(documentId);
      };
    },
    tell(documentId, edits) {
      for (const listener of listeners.get(documentId) ?? []) listener(edits);
    },
  };
}
