/** The name in an address of what was removed on the page before. */
export const REMOVED = "removed";
