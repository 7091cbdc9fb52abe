/** Version 3: themes have a palette of further colours, and say how new blocks come. */
import { isJsonObject, type Json, type JsonObject } from "../../json.ts";
import type { Migration } from "./migration.ts";

const object = (value: Json | undefined): JsonObject => (isJsonObject(value) ? value : {});

const theme = (value: Json | undefined): JsonObject => ({
  palette: [],
  starts: {},
  ...object(value),
});

export const to3: Migration = {
  props: (type, before) => (type === "email" ? { ...before, theme: theme(before.theme) } : before),
  setting: (type, path, value) =>
    type === "email" && path.join(".") === "theme"
      ? { path, value: theme(value) }
      : { path, value },
};
