/** Rich text: schema, links, tags, conditions, and where its values land. */
export * from "./file-link.ts";
export * from "./find.ts";
export * from "./landing.ts";
export * from "./letters.ts";
export * from "./line.ts";
export * from "./link.ts";
export * from "./link-from.ts";
export * from "./liquid.ts";
export * from "./mentions.ts";
export * from "./pieces.ts";
export * from "./rebase.ts";
export * from "./relink.ts";
export * from "./schema.ts";
export * from "./tag.ts";
export * from "./typed.ts";
export * from "./when.ts";
