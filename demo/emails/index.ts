/** The garden's emails: a draft worth looking at, one sent, one waiting, and a template. */

export { type Announced, announcement } from "./announcement.ts";
export { earlierNewsletter } from "./earlier.ts";
export { inFlower } from "./in-flower.ts";
export { monthlyNewsletter } from "./monthly.ts";
export { notebook } from "./notebook.ts";
export { type DemoPictures, GARDEN_THEME } from "./parts.ts";
export { seedList } from "./seed-list.ts";
