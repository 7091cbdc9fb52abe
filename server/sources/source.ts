/** A kind of source: where items come from. */
import type { NewItem } from "#core/items/index.ts";
import type { Services } from "../services.ts";
import type { Source } from "../store/sources.ts";

export interface Told {
  /** Null: nothing has changed since it was read last. */
  readonly items: readonly NewItem[] | null;
  readonly home?: string;
  readonly etag: string | null;
  readonly lastModified: string | null;
}

export interface SourceKind {
  readonly kind: string;
  /** Reads it. Throws a FetchError or a FeedError with a sentence for people where it cannot be read. */
  read(services: Pick<Services, "fetcher" | "clock">, source: Source): Promise<Told>;
}
