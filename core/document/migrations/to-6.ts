/**
 * Version 6: themes have roles for headings, links, buttons, cards, mastheads and footers, which follow others unless
 * they say so. What has the colour that it came with plays its new role; it looks as before.
 */
import type { Json, JsonObject } from "../../json.ts";
import type { Migration } from "./migration.ts";

/** By type and property: the colour that it came with, and the role that it plays. */
const ROLES: Record<string, Record<string, readonly [before: string, role: string]>> = {
  heading: { colour: ["accent", "heading"] },
  text: { linkColour: ["accent", "link"] },
  button: { fill: ["accent", "button"], colour: ["onAccent", "onButton"] },
  pictureAndWords: { fill: ["accent", "button"], onFill: ["onAccent", "onButton"] },
  masthead: { colour: ["accent", "onMasthead"] },
  footer: { colour: ["quiet", "onFooter"] },
  card: { ground: ["sheet", "card"] },
};

function renamed(type: string, name: string, value: Json): Json {
  const roles = Object.hasOwn(ROLES, type) ? ROLES[type]! : {};
  const role = Object.hasOwn(roles, name) ? roles[name]! : null;
  return role && value === role[0] ? role[1] : value;
}

export const to6: Migration = {
  props: (type, before): JsonObject =>
    Object.hasOwn(ROLES, type)
      ? Object.fromEntries(
          Object.entries(before).map(([name, value]) => [name, renamed(type, name, value ?? null)]),
        )
      : before,
  setting: (type, path, value) => ({
    path,
    value: value === undefined || path.length !== 1 ? value : renamed(type, path[0]!, value),
  }),
};
