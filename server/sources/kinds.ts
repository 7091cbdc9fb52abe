/** The kinds of sources there are. A new one is a file beside this one and a line here; what its items are stands in `core/items/kinds`. */
import { calendar } from "./calendar.ts";
import { catalogue } from "./catalogue.ts";
import { feed } from "./feed.ts";
import type { SourceKind } from "./source.ts";

const KINDS: readonly SourceKind[] = [feed, catalogue, calendar];
export const sourceKind = (kind: string): SourceKind => KINDS.find((one) => one.kind === kind)!;
