/** The checks of the proof. A new one is a file beside this one and a line here. */
import type { EmailProps } from "../blocks/layout.ts";
import type { EmailDocument } from "../document/index.ts";
import type { Fields } from "../fields/index.ts";
import type { Finding, Surroundings } from "../kinds/kind.ts";
import { mentionsIn, shownNodes } from "../mentions/index.ts";
import { compile } from "../render/index.ts";
import { addresses } from "./addresses.ts";
import { articles } from "./articles.ts";
import { blockChecks } from "./blocks.ts";
import type { Check, KnownReaders } from "./check.ts";
import { codes } from "./codes.ts";
import { contrasts } from "./contrast.ts";
import { pastDates, weekdays } from "./dates.ts";
import { ended } from "./ended.ts";
import { sender, subject } from "./envelope.ts";
import { eventTimes, prices } from "./facts.ts";
import { fallbacks } from "./fallbacks.ts";
import { handText } from "./hand-text.ts";
import { imageContrast } from "./image-contrast.ts";
import { imageSize, imageWeight, tapTargets } from "./image-files.ts";
import { altWords, imageOnly } from "./image-words.ts";
import { languages } from "./languages.ts";
import { leftover } from "./leftover.ts";
import { linkNames, linkShape, linkWords, testLinks } from "./link-addresses.ts";
import { answered } from "./link-answers.ts";
import { emptyTextLinks, lostPlaces } from "./links.ts";
import { liveItems, strayFields } from "./live.ts";
import { inOrder } from "./order.ts";
import { outline } from "./outline.ts";
import { passagesOf } from "./passages.ts";
import { chosenPictures, firstFrame, lostPictures, seeThrough } from "./pictures.ts";
import { placeholders } from "./placeholders.ts";
import { postalAddress } from "./postal-address.ts";
import { preview } from "./preview.ts";
import { doubledWords, language, readingLevel, tableHeadings, typeSize } from "./reading.ts";
import { senderDomain } from "./sender-domain.ts";
import { size } from "./size.ts";
import { spam } from "./spam.ts";
import { promise, sameSubject, shouting, subjectLength } from "./subject-words.ts";
import { unsubscribe } from "./unsubscribe.ts";
import { unsupported } from "./unsupported.ts";
import { whoSees } from "./who-sees.ts";

export { addressRefs } from "./addresses.ts";
export type { KnownReaders, ValueCount } from "./check.ts";
export { addressesToAsk } from "./link-addresses.ts";
export { inOrder } from "./order.ts";
export { passagesOf } from "./passages.ts";
export { senderDomainOf } from "./sender-domain.ts";
export { type Misspelled, spelling, wordsIn, wordsToSpell } from "./spelling.ts";

export const CHECKS: readonly Check[] = [
  unsubscribe,
  postalAddress,
  subject,
  sender,
  senderDomain,
  emptyTextLinks,
  lostPlaces,
  blockChecks,
  ended,
  outline,
  fallbacks,
  addresses,
  whoSees,
  codes,
  languages,
  contrasts,
  imageContrast,
  lostPictures,
  chosenPictures,
  articles,
  liveItems,
  strayFields,
  placeholders,
  seeThrough,
  firstFrame,
  handText,
  size,
  subjectLength,
  shouting,
  sameSubject,
  promise,
  preview,
  leftover,
  testLinks,
  linkShape,
  linkWords,
  linkNames,
  answered,
  altWords,
  imageOnly,
  imageWeight,
  imageSize,
  tapTargets,
  typeSize,
  tableHeadings,
  readingLevel,
  language,
  doubledWords,
  weekdays,
  pastDates,
  prices,
  eventTimes,
  spam,
  unsupported,
];

/** Everything the checks find, what stops a send first. */
export function runChecks(
  doc: EmailDocument,
  surroundings: Surroundings,
  fields: Fields,
  readers: KnownReaders | null = null,
): Finding[] {
  const input = {
    doc,
    email: doc.root.props as unknown as EmailProps,
    compiled: compile(doc, surroundings),
    passages: passagesOf(doc),
    nodes: shownNodes(doc),
    mentions: mentionsIn(doc),
    surroundings,
    fields,
    readers,
    today: readers?.today ?? null,
    now: readers?.now ?? null,
  };
  return inOrder(
    CHECKS.flatMap((check) => check.run(input)),
    doc,
    readers,
  );
}
