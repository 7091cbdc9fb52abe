/** A kind of source: how what stands at its address becomes items. */
import type { NewItem } from "#core/items/index.ts";
import type { Fetched } from "../fetching/fetcher.ts";

/** What an address holds. */
export interface Content {
  readonly title: string;
  /** The page it belongs to, or empty. */
  readonly home: string;
  readonly items: readonly NewItem[];
  /** They are all it has: what it had besides has gone. */
  readonly whole: boolean;
}

export interface SourceKind {
  readonly kind: string;
  /** What is asked for (RFC 9110, 12.5.1). */
  readonly accept: string;
  /** Reads what was fetched; days and times without a zone are those of `zone`. Throws a FeedError with a sentence for people. */
  read(found: Fetched, at: { now: Date; zone: string }): Content;
  /** Where a page says that it is; null where it names none. */
  namedBy?(page: Fetched): string | null;
  /** How often it is read, minutes. */
  readonly every: number;
}
