/** What every kind of edit has in common. */
import type { z } from "zod";
import type { EmailDocument } from "../model.ts";

export type EditProblem = "missing" | "misplaced" | "duplicate" | "invalid" | "limit";

/** An edit that does not fit the document. The document is left as it was. */
export class EditError extends Error {
  constructor(
    readonly problem: EditProblem,
    message: string,
  ) {
    super(message);
    this.name = "EditError";
  }
}

/** The part of a document an edit writes: a whole node, or one property of it. */
export interface Touch {
  readonly node: string;
  readonly path: readonly string[] | null;
}

/** One kind of edit. `apply(apply(doc, e), invert(doc, e))` is `doc`, byte for byte in canonical JSON. */
export interface EditKind<E> {
  readonly schema: z.ZodType<E>;
  /** Throws an EditError when the edit does not fit. */
  apply(doc: EmailDocument, edit: E): EmailDocument;
  /** The edit that takes `edit` back; `doc` is the state before it. */
  invert(doc: EmailDocument, edit: E): unknown;
  touches(edit: E): Touch[];
}
