/**
 * The style of blocks: which of their values are style, how a theme has them, what was changed here. A value
 * of the theme is not looked up when an email is rendered: it is what new blocks come with, and what those
 * that still have it follow when the theme's changes.
 */
import {
  type DocNode,
  type EmailDocument,
  type SimpleEdit,
  valueAt,
  walk,
  withValue,
} from "../document/index.ts";
import { isJsonObject, type Json, type JsonObject, sameJson } from "../json.ts";
import type { Control } from "../kinds/kind.ts";
import type { Theme } from "../theme/theme.ts";
import { blockKind, createBlock, nodeKind, propsFit } from "./index.ts";

/** The key under `starts` whose values hold for every kind of block. */
export const ALL = "all";

type Path = readonly string[];
const keyOf = (path: Path) => path.join(".");

const BOX: readonly Path[] = [
  ["box", "background"],
  ["box", "padding"],
  ["box", "align"],
  ["box", "alignNarrow"],
  ["box", "border"],
  ["box", "corner"],
];
const pathsOf = (controls: readonly Control[]): Path[] =>
  controls.flatMap((control) => ("path" in control ? [control.path] : []));

/** The paths of a block's style, or of an item's. */
export function stylePaths(type: string): readonly Path[] {
  const kind = nodeKind(type);
  if (!kind) return [];
  const block = blockKind(type);
  return [...pathsOf(kind.style), ...(block ? BOX : []), ...(block?.inner ? [["inner"]] : [])];
}

const themeOf = (doc: EmailDocument) => doc.root.props.theme as unknown as Theme;

/** Writes the values of a theme over properties, those that exist there and fit. */
function overlaid(type: string, props: JsonObject, values: Theme["starts"][string]): JsonObject {
  let out = props;
  for (const [key, value] of Object.entries(values)) {
    const path = key.split(".");
    const before = valueAt(out, path);
    if (before === undefined) continue;
    // A theme that was made before a part of a value was there says nothing about it.
    const whole = isJsonObject(before) && isJsonObject(value) ? { ...before, ...value } : value;
    const next = withValue(out, path, whole);
    if (propsFit(type, next)) out = next;
  }
  return out;
}

const known = new WeakMap<object, Map<string, JsonObject>>();

/** The properties a new block or item of a type has under a theme. */
export function startProps(theme: Theme, type: string): JsonObject {
  const cache = known.get(theme.starts) ?? new Map<string, JsonObject>();
  known.set(theme.starts, cache);
  const found = cache.get(type);
  if (found) return found;
  let props = (nodeKind(type)?.create() ?? {}) as JsonObject;
  for (const name of [ALL, type]) props = overlaid(type, props, theme.starts[name] ?? {});
  cache.set(type, props);
  return props;
}

/** Whether a value is as the theme has it. */
export const fromTheme = (doc: EmailDocument, node: DocNode, path: Path): boolean =>
  sameJson(
    (valueAt(startProps(themeOf(doc), node.type), path) ?? null) as Json,
    (valueAt(node.props, path) ?? null) as Json,
  );

/** The paths of a node's style that were changed from the theme's. */
export const changedHere = (doc: EmailDocument, node: DocNode): Path[] =>
  stylePaths(node.type).filter((path) => !fromTheme(doc, node, path));

/** The edits that take values of a node's style back to the theme's. */
export function backToTheme(
  doc: EmailDocument,
  node: DocNode,
  paths: readonly Path[],
): SimpleEdit[] {
  const start = startProps(themeOf(doc), node.type);
  return paths
    .filter((path) => !fromTheme(doc, node, path))
    .map((path) => ({ type: "set", node: node.id, path: [...path], value: valueAt(start, path) }));
}

/** A style as it can be copied from one block to another, also between emails. */
export interface Style {
  readonly type: string;
  readonly values: { readonly [path: string]: Json };
}

export const styleOf = (node: DocNode): Style => ({
  type: node.type,
  values: Object.fromEntries(
    stylePaths(node.type).map((path) => [keyOf(path), valueAt(node.props, path) ?? null]),
  ),
});

/** The edits that give a node a style: the values it has a place for and that fit there. */
export function withStyle(node: DocNode, { values }: Style): SimpleEdit[] {
  return stylePaths(node.type).flatMap((path): SimpleEdit[] => {
    const value = values[keyOf(path)];
    if (value === undefined || sameJson(value, (valueAt(node.props, path) ?? null) as Json))
      return [];
    const fits = propsFit(node.type, withValue(node.props, path, value));
    return fits ? [{ type: "set", node: node.id, path: [...path], value }] : [];
  });
}

/** The other nodes of a node's type. */
const others = (doc: EmailDocument, node: DocNode): DocNode[] =>
  [...walk(doc.root)].filter((one) => one.type === node.type && one.id !== node.id);

const only = (node: DocNode, paths: readonly Path[]): Style => {
  const keys = new Set(paths.map(keyOf));
  const { type, values } = styleOf(node);
  return {
    type,
    values: Object.fromEntries(Object.entries(values).filter(([key]) => keys.has(key))),
  };
};

/** The edits that give values of a node's style to all others of its type, for each that they touch. */
export const spread = (doc: EmailDocument, node: DocNode, paths: readonly Path[]): SimpleEdit[][] =>
  others(doc, node)
    .map((one) => withStyle(one, only(node, paths)))
    .filter((edits) => edits.length > 0);

/** The edit that makes values the start of a type (or of every block), without touching any block. */
export function startsWith(
  doc: EmailDocument,
  type: string,
  values: { readonly [path: string]: Json },
): SimpleEdit {
  const { starts } = themeOf(doc);
  return {
    type: "set",
    node: doc.root.id,
    path: ["theme", "starts"],
    value: { ...starts, [type]: { ...starts[type], ...values } },
  };
}

/** The edits that make values of a node's style the theme's: others that still have the old ones follow. */
export function makeThemes(
  doc: EmailDocument,
  node: DocNode,
  paths: readonly Path[],
): { edits: SimpleEdit[]; followers: number } {
  const style = only(node, paths);
  const followers = others(doc, node)
    .map((one) => {
      const still = paths.filter((path) => fromTheme(doc, one, path));
      return withStyle(one, only(node, still));
    })
    .filter((edits) => edits.length > 0);
  return {
    edits: [startsWith(doc, node.type, style.values), ...followers.flat()],
    followers: followers.length,
  };
}

/** A new block as the email's theme has it. */
export const newBlock = (
  doc: EmailDocument,
  type: string,
  newId: () => string,
  props: object = {},
  children?: readonly DocNode[],
): DocNode => createBlock(type, newId, props, children, startProps(themeOf(doc), type));
