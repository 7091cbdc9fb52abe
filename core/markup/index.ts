/** Markup: what an email is compiled to, and the way of rich text into it, as HTML and as plain text. */
export * from "./layout.ts";
export * from "./liquid.ts";
export * from "./markup.ts";
export * from "./render.ts";
export * from "./shown.ts";
