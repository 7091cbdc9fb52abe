/** Small pictures of emails: the email itself as nobody in particular would see it, made once for a state. */
import type { EmailDocument } from "#core/document/index.ts";
import { canonical, type JsonObject } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { mergeText, prepare, type Reader } from "#core/merge/index.ts";
import { type CompiledEmail, compile } from "#core/render/index.ts";
import type { Theme } from "#core/theme/theme.ts";
import type { Services } from "../services.ts";
import { loadDocument } from "../store/documents.ts";
import { surroundings } from "./emails.ts";

/** How many bands are in sight at most. */
const BANDS = 8;

const top = (doc: EmailDocument): EmailDocument => ({
  ...doc,
  root: { ...doc.root, children: doc.root.children.slice(0, BANDS) },
});

const kept = new WeakMap<Services["database"], Map<string, string>>();

/** An email in another theme. */
export const inTheme = (doc: EmailDocument, theme: Theme | null): EmailDocument =>
  theme ? { ...doc, root: { ...doc.root, props: { ...doc.root.props, ...lookOf(theme) } } } : doc;

/** What an email has of a theme. */
const lookOf = (theme: Theme): JsonObject => ({
  theme: theme as never,
  ...(theme.width && { width: theme.width }),
});

/** An email for a frame of the studio: images of this house, tags by `values`, what is still to be filled in marked. */
export async function previewOf(
  { database, config, signer, clock }: Pick<Services, "database" | "config" | "signer" | "clock">,
  doc: EmailDocument,
  valuesOf: (email: CompiledEmail) => Reader["values"] = () => ({}),
): Promise<string> {
  const around = await surroundings(database.sql, config, doc, clock.now());
  const email = compile(doc, { ...around, publicAddress: "" });
  const options = { links: "direct", marks: false, unfilled: true, sign: signer.seal } as const;
  return mergeText(prepare(email, options).html, { values: valuesOf(email), token: "" });
}

/** The HTML of a document as it is now, or null where there is none. `seq` is the state somebody knows; `theme`, another than its own. */
export async function lookAt(
  services: Pick<Services, "database" | "config" | "signer" | "clock">,
  documentId: string,
  seq: number,
  theme: Theme | null = null,
): Promise<string | null> {
  const { database } = services;
  const looks = kept.get(database) ?? new Map<string, string>();
  kept.set(database, looks);
  const keyOf = (state: number) =>
    `${documentId}:${state}:${theme ? canonical(theme as never) : ""}`;
  const key = keyOf(seq);
  const before = looks.get(key);
  if (before) return before;
  const stored = await loadDocument(database.sql, documentId);
  if (!stored) return null;
  const html = await previewOf(services, top(inTheme(stored.doc, theme)));
  if (looks.size >= LIMITS.looks) looks.delete(looks.keys().next().value!);
  looks.set(keyOf(stored.seq), html);
  return html;
}
