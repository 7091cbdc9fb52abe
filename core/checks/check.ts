/** What a check of the proof is given, and gives. */

import { textsOf } from "../blocks/index.ts";
import type { EmailProps } from "../blocks/layout.ts";
import { counted } from "../counted.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import type { Fields } from "../fields/index.ts";
import type { Json } from "../json.ts";
import type { Finding, Surroundings } from "../kinds/kind.ts";
import type { Mention, ShownNode } from "../mentions/index.ts";
import type { CompiledEmail } from "../render/index.ts";
import type { Group } from "../versions/index.ts";
import type { Passage } from "./passages.ts";

export interface CheckInput {
  readonly doc: EmailDocument;
  readonly email: EmailProps;
  readonly compiled: CompiledEmail;
  /** All that it says in words, in every language. */
  readonly passages: readonly Passage[];
  /** Every node that is shown at some width, with when and where. */
  readonly nodes: readonly ShownNode[];
  /** Everything the email mentions. */
  readonly mentions: readonly Mention[];
  readonly surroundings: Surroundings;
  readonly fields: Fields;
  /** The campaign's readers by the email's conditions; null where they are not known (yet). */
  readonly readers: KnownReaders | null;
  /** The day (ISO date); null where nobody has said. */
  readonly today: string | null;
  /** The moment, ms since 1970; null where nobody has said. */
  readonly now: number | null;
}

export interface ValueCount {
  readonly value: Json | null;
  readonly people: number;
}

export interface KnownReaders {
  readonly conditions: readonly string[];
  readonly groups: readonly Group[];
  /** What is wrong with each condition, or null. */
  readonly problems: readonly (string | null)[];
  /** Of some tags: what values the readers have, and how many of them; null for none. */
  readonly values?: ReadonlyMap<string, readonly ValueCount[]>;
  /** How many of them get nothing at blocks where each has items of their own, by node. */
  readonly empty?: ReadonlyMap<string, number>;
  /** The moment they were counted, ms since 1970. */
  readonly now?: number;
  /** The day (ISO date) they were counted. */
  readonly today: string;
}

/** Where a finding about a node leads. */
export const placeOf = (node: DocNode): string => (node.type === "email" ? "envelope" : node.id);

/** Whether something is mentioned in a text of its node, and not in one of its settings. */
export const isInText = ({ node, path }: Mention): boolean =>
  textsOf(node.type).some((text) => text.path.join(".") === path.join("."));

export interface Check {
  readonly id: string;
  run(input: CheckInput): Finding[];
}

/** Numbers of people and codes in words. */
export const readersIn = (n: number): string => counted(n, "reader");
export const codesIn = (n: number): string => counted(n, "code");
