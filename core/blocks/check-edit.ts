/** Whether an edit may be made: one question, asked by the composer, the database and whoever looks ahead. */
import { apply, type Edit, EditError, type EmailDocument } from "../document/index.ts";
import { checkHolds } from "./holds.ts";
import { checkDocument } from "./index.ts";
import { checkLinks } from "./linked.ts";

export interface Allowed {
  /** Whether holds bind whoever makes it. */
  readonly held?: boolean;
  /** Whether it brings linked blocks up to date, which nobody else changes in their places. */
  readonly linking?: boolean;
}

/** Throws an EditError, with words for the person, where what an edit made is no email, or is not theirs to make. */
export function checkEdit(
  before: EmailDocument,
  after: EmailDocument,
  edit: Edit,
  { held = false, linking = false }: Allowed,
): void {
  checkDocument(after);
  if (held) checkHolds(before, after, edit);
  if (!linking) checkLinks(before, after, edit);
}

/** Why an edit could not be made, in words for the person; null where it could. */
export function whyNot(doc: EmailDocument, edit: Edit, allowed: Allowed): string | null {
  try {
    checkEdit(doc, apply(doc, edit), edit, allowed);
    return null;
  } catch (error) {
    if (error instanceof EditError) return error.message;
    throw error;
  }
}
