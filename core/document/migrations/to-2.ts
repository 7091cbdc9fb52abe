/**
 * Version 2: boxes have borders and a direction, words have their type, plain text can be written by hand,
 * themes have dark roles and web fonts, bands have pictures, borders and outer spacing.
 */
import { isJsonObject, type Json, type JsonObject } from "../../json.ts";
import type { Migration } from "./migration.ts";

const TYPE = { font: null, size: null, lineHeight: null, spacing: 0, capitals: false };
const NO_SPACE = { top: 0, right: 0, bottom: 0, left: 0 };
const NO_BORDER = { width: 0, colour: "line" };
const object = (value: Json | undefined): JsonObject => (isJsonObject(value) ? value : {});

const theme = (value: Json | undefined): JsonObject => ({
  dark: null,
  webFonts: { heading: null, body: null },
  ...object(value),
});

function props(type: string, before: JsonObject): JsonObject {
  if (type === "email") {
    return { dir: "ltr", textLinks: "inline", ...before, theme: theme(before.theme) };
  }
  if (type === "band") {
    return {
      picture: null,
      minHeight: 0,
      outer: NO_SPACE,
      border: NO_BORDER,
      corner: 0,
      ...before,
    };
  }
  if (type === "column") return before;
  const box = { border: NO_BORDER, corner: 0, dir: null, ...object(before.box) };
  const block = { plain: null, ...before, box };
  if (type === "text") {
    const { size = null, ...rest } = block as JsonObject;
    return { linkUnderline: true, type: { ...TYPE, size }, ...rest };
  }
  if (type === "heading" || type === "quote") return { type: TYPE, ...block };
  if (type === "image" || type === "pictureAndWords") return { backing: null, ...block };
  return block;
}

export const to2: Migration = {
  props,
  setting(type, path, value) {
    if (type === "email" && path.join(".") === "theme") return { path, value: theme(value) };
    if (type === "text" && path.join(".") === "size") return { path: ["type", "size"], value };
    return { path, value };
  },
};
