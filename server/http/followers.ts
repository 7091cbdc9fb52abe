/** Followers of a document: tabs that hear of every edit as it is stored, and of who else is there. */
import type { StoredEdit } from "#core/document/index.ts";

/** A tab that has the document open. */
export interface Presence {
  readonly tab: string;
  readonly name: string;
  /** The node that is selected there; null for none. */
  readonly at: string | null;
}

export interface Listener {
  edits(edits: readonly StoredEdit[]): void;
  /** Everybody who is there, this tab too. */
  presence(people: readonly Presence[]): void;
}

export interface Followers {
  /** Follows a document; gives the way to stop. Without `who` it is listened to by nobody who would be seen there. */
  follow(
    documentId: string,
    who: { tab: string; name: string } | null,
    listener: Listener,
  ): () => void;
  tell(documentId: string, edits: readonly StoredEdit[]): void;
  /** Says where a tab is now. One that does not follow is passed over. */
  move(documentId: string, tab: string, at: string | null): void;
}

export function createFollowers(): Followers {
  const documents = new Map<string, Map<Listener, Presence | null>>();
  const tellPresence = (documentId: string) => {
    const here = documents.get(documentId);
    if (!here) return;
    const people = [...here.values()].filter((who) => who !== null);
    for (const listener of here.keys()) listener.presence(people);
  };
  return {
    follow(documentId, who, listener) {
      const here = documents.get(documentId) ?? new Map<Listener, Presence | null>();
      documents.set(documentId, here.set(listener, who && { ...who, at: null }));
      tellPresence(documentId);
      return () => {
        here.delete(listener);
        if (here.size === 0) documents.delete(documentId);
        else tellPresence(documentId);
      };
    },
    tell(documentId, edits) {
      for (const listener of documents.get(documentId)?.keys() ?? []) listener.edits(edits);
    },
    move(documentId, tab, at) {
      const here = documents.get(documentId);
      for (const [listener, who] of here ?? []) {
        if (who?.tab === tab && who.at !== at) {
          here!.set(listener, { ...who, at });
          tellPresence(documentId);
        }
      }
    },
  };
}
