/** What templates are for. A new one is a line here. */
export const CATEGORIES = {
  news: "News",
  announcements: "Announcements",
  invitations: "Invitations",
  shop: "Shop",
  letters: "Letters",
  members: "Members",
  questions: "Questions",
  bare: "Bare layouts",
} as const;
export type Category = keyof typeof CATEGORIES;
export const isCategory = (name: string): name is Category => Object.hasOwn(CATEGORIES, name);
