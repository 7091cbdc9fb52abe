/** Rich text: schema, links, tags, and its way to HTML and plain text. */
export * from "./find.ts";
export * from "./from-html.ts";
export * from "./layout.ts";
export * from "./letters.ts";
export * from "./line.ts";
export * from "./link.ts";
export * from "./link-from.ts";
export * from "./liquid.ts";
export * from "./markup.ts";
export * from "./mentions.ts";
export * from "./pieces.ts";
export * from "./rebase.ts";
export * from "./render.ts";
export * from "./schema.ts";
export * from "./tag.ts";
export * from "./when.ts";
