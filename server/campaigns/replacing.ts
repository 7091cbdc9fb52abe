/** Putting one image in the place of another wherever it stands, but for emails that are sent or scheduled. */
import { type DocNode, EditError, type SimpleEdit, walk } from "#core/document/index.ts";
import { mentionsOf } from "#core/mentions/index.ts";
import type { Services } from "../services.ts";
import { loadDocument } from "../store/documents.ts";
import { noteReplaced, replaceInRows } from "../store/pictures.ts";
import { liftsHolds, type Member } from "../store/team.ts";
import { type Use, whereUsed } from "../store/uses.ts";
import { makeStep } from "./step.ts";

/** Where an image was not replaced, and why. */
export interface LeftAsItIs {
  readonly name: string;
  readonly why: string;
}
export interface Replaced {
  readonly names: readonly string[];
  readonly left: readonly LeftAsItIs[];
}

interface Asked {
  readonly from: string;
  readonly to: string;
  /** By which it was replaced when the person looked; null for by none. */
  readonly seen: string | null;
  readonly member: Member;
}

/** The edits that put an image in the place of another in a document. */
const editsOf = (root: DocNode, from: string, to: string): SimpleEdit[] =>
  [...walk(root)].flatMap((node) =>
    mentionsOf(node).flatMap((mention) =>
      mention.what === "picture" && mention.picture === from && mention.lang === null
        ? [{ type: "set" as const, node: node.id, path: [...mention.path], value: to }]
        : [],
    ),
  );

async function inDocument(services: Services, document: string, { from, to, member }: Asked) {
  const stored = await loadDocument(services.database.sql, document);
  if (!stored) return;
  const edits = editsOf(stored.doc.root, from, to);
  const author = { member: member.id, held: !liftsHolds(member), linking: true };
  await makeStep(services, { document, seq: stored.seq, edits, by: "library" }, author);
}

const FIXED = "it is scheduled: call it back to change it";

/** Puts it into one place; gives why it was left as it is, or null. Whoever has the email open sees it change. */
async function inUse(services: Services, use: Use, asked: Asked): Promise<string | null> {
  if (use.fixed) return FIXED;
  try {
    if (use.document !== null) await inDocument(services, use.document, asked);
    return null;
  } catch (error) {
    if (error instanceof EditError) return error.message;
    throw error;
  }
}

/**
 * Replaces an image everywhere. Null where somebody else has replaced it since the person looked. Done again after it
 * was cut off, it goes on with what is left.
 */
export async function replaceEverywhere(
  services: Services,
  asked: Asked,
): Promise<Replaced | null> {
  const { database, clock } = services;
  const { from, to, seen, member } = asked;
  const uses = await whereUsed(database.sql, from);
  const noted = await database.tx(async (sql) => {
    const at = clock.now();
    if (!(await noteReplaced(sql, from, { by: to, seen, who: member.id, at }))) return false;
    await replaceInRows(sql, from, to);
    return true;
  });
  if (!noted) return null;
  const names: string[] = [];
  const left: LeftAsItIs[] = [];
  for (const use of uses) {
    const why = await inUse(services, use, asked);
    if (why === null) names.push(use.name);
    else left.push({ name: use.name, why });
  }
  return { names, left };
}
