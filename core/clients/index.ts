/** Families of mail programs: what each makes of an email. */
export { readAloud, type Said } from "./aloud.ts";
export type { Family, Lost, ShownBy } from "./family.ts";
export { showIn } from "./show.ts";
export { FAMILIES, familyOf } from "./table.ts";
