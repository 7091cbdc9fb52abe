import type { Json, JsonObject } from "../../json.ts";

/** How documents of one version become documents of the next. It never changes once it is out. */
export interface Migration {
  /** The properties of a node of this type in the next version. */
  props(type: string, before: JsonObject): JsonObject;
  /** The same for a `set` edit that was made in the older version. */
  setting(
    type: string,
    path: readonly string[],
    value: Json | undefined,
  ): { path: readonly string[]; value: Json | undefined };
}
