import type { LiveItem } from "../items/index.ts";
import type { Surroundings } from "./kind.ts";

/** The items an email shows, those it keeps to first, whatever block they stand in; one can come twice. */
export const shownItems = ({ items, live }: Pick<Surroundings, "items" | "live">): LiveItem[] => [
  ...(items?.values() ?? []),
  ...[...(live?.values() ?? [])].flatMap((list) => list.items),
];
