/** What an email asks of its readers: which values, and where links and addresses lead for one of them. */
import { derivedBehind, derivedIdOf, derivedRefs } from "../derived/index.ts";
import { MAIL_ADDRESS } from "../fields/index.ts";
import { allWithWhen, type Segment } from "../markup/index.ts";
import type { CompiledEmail } from "../render/index.ts";
import { isShownTo, itemFieldOf, type Link, TAG_REF, tagsOf, type When } from "../text/index.ts";
import { derivedLinkTag } from "./address.ts";
import { mergeText, pack } from "./body.ts";
import { webAddress } from "./land.ts";
import { linkPieces } from "./prepare.ts";
import { type Reader, type TagContext, tagWriter } from "./values.ts";

/** The kinds of links that are counted, and lead on. */
const LEADS_OUT: ReadonlySet<Link["kind"]> = new Set(["web", "derived", "file"]);

/** The address a numbered link leads a reader to, or null: only addresses of the email itself come out. */
export function linkAddress(email: CompiledEmail, number: number, reader: Reader): string | null {
  const link = email.links[number - 1];
  if (!link || !LEADS_OUT.has(link.to.kind)) return null;
  const pieces = linkPieces({ to: link.to, as: "redirect" }, number, email, "direct");
  return webAddress(mergeText(pack(pieces, email.conditions), reader));
}

/**
 * An address of the envelope for a reader: as it is, or the value of the tag it names. Null where that is none,
 * so that whoever sends can stand in.
 */
export function envelopeAddress(written: string, reader: Reader, email: TagContext): string | null {
  if (!TAG_REF.test(written)) return written || null;
  const ref = derivedIdOf(written) === null ? written : `${written}.address`;
  const address = tagWriter({ ref, fallback: null, format: null }, email)(reader).trim();
  return MAIL_ADDRESS.test(address) ? address : null;
}

/** Every tag that segments ask for, each with when it is shown (null: always). */
function* tagsIn(segments: readonly Segment[]): Generator<{ ref: string; when: When | null }> {
  for (const { segment, when } of allWithWhen(segments)) {
    if (typeof segment === "string") continue;
    if (segment.slot === "tag") yield { ref: segment.tag.ref, when };
    else if (segment.slot === "chosen") {
      for (const ref of [segment.ref, ...segment.asks]) yield { ref, when };
    } else if (segment.slot === "made" && segment.recipe.words) {
      for (const { ref } of tagsOf(segment.recipe.words)) yield { ref, when };
    } else if (segment.slot === "link") {
      const { to } = segment;
      if (to.kind === "derived") yield { ref: derivedLinkTag(to.tag).ref, when };
      if (to.kind === "web") for (const { ref } of tagsOf(to.address)) yield { ref, when };
      if (to.kind === "forward") for (const { ref } of tagsOf(to.subject)) yield { ref, when };
    }
  }
}

/** The tags of a compiled email, those of its envelope and those that derived tags are made of too. */
function* allTags(email: CompiledEmail): Generator<{ ref: string; when: When | null }> {
  const visit = function* (ref: string, when: When | null) {
    yield { ref, when };
    for (const tag of derivedBehind([ref], email.derived)) {
      for (const inner of derivedRefs(tag)) yield { ref: inner, when };
    }
  };
  for (const { value } of email.parameters) {
    if (typeof value !== "string") yield { ref: value.ref, when: null };
  }
  for (const body of [email.html, email.text, email.subject, email.fromName]) {
    for (const { ref, when } of tagsIn(body)) yield* visit(ref, when);
  }
  for (const address of [email.fromAddress, email.replyTo]) {
    if (TAG_REF.test(address)) yield* visit(address, null);
  }
}

/** The values a compiled email is merged with, by reference, each once; not derived tags but what they are made of. */
export const refsOf = (email: CompiledEmail): string[] =>
  [...new Set([...allTags(email)].map(({ ref }) => ref))]
    .filter((ref) => derivedIdOf(ref) === null && itemFieldOf(ref) === null)
    .sort();

/** The code rolls of an email, each with when one of its codes is seen: null where everybody sees one. */
export function codesOf(email: CompiledEmail): Map<string, readonly When[] | null> {
  const found = new Map<string, readonly When[] | null>();
  for (const { ref, when } of allTags(email)) {
    if (!ref.startsWith(CODE)) continue;
    const roll = ref.slice(CODE.length);
    const before = found.get(roll);
    found.set(roll, when && before !== null ? [...(before ?? []), when] : null);
  }
  return found;
}

/** Whether somebody sees a code of a roll, by their bits. */
export const seesCode = (
  whens: readonly When[] | null,
  conditions: readonly string[],
  bits: string,
): boolean => whens === null || whens.some((when) => isShownTo(when, conditions, bits));

const CODE = "code:";
