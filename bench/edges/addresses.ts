/** Every address of the application, with real ids in the places of its parameters. */
import type { RouteConfigEntry } from "@react-router/dev/routes";
import routes from "../../app/routes.ts";

/** Patterns such as `campaigns/:campaign/edits`, from the list of routes. */
export function patternsOf(entries = routes as readonly RouteConfigEntry[], above = ""): string[] {
  return entries.flatMap((entry) => {
    const path = [above, entry.path].filter(Boolean).join("/");
    return [
      ...(entry.index || entry.path ? [`/${path}`] : []),
      ...(entry.children ? patternsOf(entry.children, path) : []),
    ];
  });
}

const filled = (pattern: string, fill: (name: string) => string): string =>
  pattern.replace(/:(\w+)/g, (_, name: string) => fill(name)).replace("*", "no/such/page");

/** Ids that exist, by the name of their parameter. */
export type Ids = Readonly<Record<string, string>>;

/** An address with ids that exist; those of parameters that have none are made up. */
export const realAddress = (pattern: string, ids: Ids): string =>
  filled(pattern, (name) => ids[name] ?? "x");

/** An address with something hostile in each of its parameters; null where it has none. */
export const hostileAddress = (pattern: string, value: string): string | null =>
  pattern.includes(":") || pattern.includes("*") ? filled(pattern, () => value) : null;
