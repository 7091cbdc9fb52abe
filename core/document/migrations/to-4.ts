/** Version 4: bands, columns and blocks say who sees them; footers can link to the preferences. */
import type { JsonObject } from "../../json.ts";
import { isBlock } from "../model.ts";
import type { Migration } from "./migration.ts";

const PREFERENCES: JsonObject = {
  preferences: false,
  preferencesLabel: { type: "line", content: [{ type: "text", text: "Choose what you get" }] },
};

export const to4: Migration = {
  props: (type, before) => ({
    ...(type === "footer" && PREFERENCES),
    ...(type === "email" && { others: [], languageField: null }),
    ...((type === "band" || type === "column" || isBlock(type)) && { seenBy: null, chain: null }),
    ...before,
  }),
  setting: (_type, path, value) => ({ path, value }),
};
