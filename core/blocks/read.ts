/**
 * Reading stored documents: older versions are migrated; newer and damaged ones are read as far as they can
 * be understood, to be looked at and not to be written.
 */
import {
  type DocNode,
  documentSchema,
  type EmailDocument,
  mayHold,
  migrateTree,
  SCHEMA_VERSION,
  walk,
} from "../document/index.ts";
import { isJsonObject, type Json } from "../json.ts";
import { translationsSchema } from "../kinds/translations.ts";
import { checkDocument, checkNode, checkPlace, createDocument, labelOf } from "./index.ts";
import { emailSchema } from "./layout.ts";

/** Why a document can only be looked at. */
export interface Trouble {
  readonly state: "newer" | "damaged";
  /** One sentence for the person. */
  readonly reason: string;
  /** What could not be read, in words: “Text”, “2 × Band”. */
  readonly lost: readonly string[];
}
export interface ReadDocument {
  readonly doc: EmailDocument;
  /** Null: it is whole and can be edited. */
  readonly trouble: Trouble | null;
}

/** What of a tree is understood; the types of what is not are counted. */
function salvage(root: unknown, lost: Map<string, number>): EmailDocument {
  const miss = (what: string) => lost.set(what, (lost.get(what) ?? 0) + 1);
  const seen = new Set<string>();
  const read = (raw: unknown, parent: string): DocNode | null => {
    if (!isJsonObject(raw) || typeof raw.id !== "string" || typeof raw.type !== "string") {
      miss("a piece without a name");
      return null;
    }
    const { id, type } = raw;
    const bare = { id, type, props: isJsonObject(raw.props) ? raw.props : {}, children: [] };
    try {
      if (seen.has(id) || !mayHold(parent, type)) throw new RangeError("misplaced");
      checkNode(bare);
    } catch {
      miss(labelOf(bare));
      return null;
    }
    seen.add(id);
    const children = (Array.isArray(raw.children) ? raw.children : [])
      .map((child) => read(child, type))
      .filter((child) => child !== null);
    const node = { ...bare, children };
    try {
      checkPlace(node);
    } catch {
      miss(labelOf(bare));
      return null;
    }
    return node;
  };
  const source = isJsonObject(root) ? root : {};
  const given = isJsonObject(source.props) ? source.props : {};
  const props: Record<string, Json> = {};
  for (const [name, schema] of Object.entries(emailSchema.shape)) {
    const result = schema.safeParse(given[name]);
    if (result.success) props[name] = result.data as Json;
    else miss(`the email’s ${name}`);
  }
  if (given.tr !== undefined && translationsSchema.safeParse(given.tr).success) props.tr = given.tr;
  const id = typeof source.id === "string" ? source.id : "email";
  seen.add(id);
  const bands = (Array.isArray(source.children) ? source.children : [])
    .map((child) => read(child, "email"))
    .filter((band) => band !== null);
  const doc = createDocument(bands, props);
  return { ...doc, root: { ...doc.root, id } };
}

const inWords = (lost: ReadonlyMap<string, number>): string[] =>
  [...lost].map(([what, count]) => (count > 1 ? `${count} × ${what}` : what));

/** Reads a document from its stored spelling. Never throws: what cannot be read is told. */
export function readDocument(body: string): ReadDocument {
  let json: unknown;
  try {
    json = JSON.parse(body);
  } catch {
    json = null;
  }
  const version = isJsonObject(json) ? json.schemaVersion : undefined;
  const newer = typeof version === "number" && version > SCHEMA_VERSION;
  if (isJsonObject(json) && !newer) {
    try {
      const root = migrateTree(json.root ?? null, Number(version));
      const doc = documentSchema.parse({ ...json, root, schemaVersion: SCHEMA_VERSION });
      checkDocument(doc);
      const ids = [...walk(doc.root)].map(({ id }) => id);
      if (new Set(ids).size < ids.length) throw new RangeError("Two pieces have one id");
      return { doc, trouble: null };
    } catch {
      // Read below as far as it goes.
    }
  }
  const lost = new Map<string, number>();
  let root = isJsonObject(json) ? (json.root ?? null) : null;
  try {
    if (!newer) root = migrateTree(root, Number(version));
  } catch {
    // A version that never was: read as if it were this one.
  }
  const doc = salvage(root, lost);
  const reason = newer
    ? `This email was made with a newer Septima (version ${version}; this one reads ${SCHEMA_VERSION}). It can be looked at, not changed.`
    : "This email is damaged. What can be read of it is shown; nothing is changed.";
  return { doc, trouble: { state: newer ? "newer" : "damaged", reason, lost: inWords(lost) } };
}
