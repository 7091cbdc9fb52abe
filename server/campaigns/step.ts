/** A step in an email that nobody makes in the composer: a picture replaced, a linked block changed, a template’s change. */
import { type SimpleEdit, together } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { newId } from "../ids.ts";
import type { Services } from "../services.ts";
import { type Author, appendEdits } from "../store/documents.ts";

export interface Step {
  readonly document: string;
  /** The state the edits were made on, one after another. */
  readonly seq: number;
  readonly edits: readonly SimpleEdit[];
  /** What makes it, as the tab of an envelope. */
  readonly by: string;
}

/** The same edits, as many at a time as one may be made of. */
const inGroups = (edits: readonly SimpleEdit[]) =>
  Array.from({ length: Math.ceil(edits.length / LIMITS.editParts) }, (_, i) =>
    together(edits.slice(i * LIMITS.editParts, (i + 1) * LIMITS.editParts)),
  );

/** Makes it, all or nothing, and tells whoever has the email open. Throws an EditError where it does not fit. */
export async function makeStep(
  { database, clock, followers }: Pick<Services, "database" | "clock" | "followers">,
  { document, seq, edits, by }: Step,
  author: Omit<Author, "tab" | "at">,
): Promise<void> {
  if (edits.length === 0) return;
  const step = newId();
  const changes = inGroups(edits).map((edit) => ({
    ...{ id: newId(), edit, does: "do" as const, step, of: null },
  }));
  const made = await database.tx((sql) =>
    appendEdits(sql, document, { tab: by, base: seq, changes }, { ...author, at: clock.now() }),
  );
  if (made.edits.length > 0) followers.tell(document, made.edits);
}
