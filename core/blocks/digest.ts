import { beside, picture, said, title, words } from "./item-designs.ts";
import { itemList } from "./item-list.ts";

/** Articles of feeds, by rule. */
export const digest = itemList({
  type: "digest",
  label: "Digest",
  icon: "rss",
  items: "feed",
  choice: { order: "newest", count: 3 },
  emptyWords: "There is nothing new this time.",
  designs: [
    {
      id: "beside",
      label: "Image at the side",
      props: { perRow: 1, gap: 20, lead: false },
      blocks: (newId) => [beside(newId, "summary")],
    },
    {
      id: "cards",
      label: "Cards, two in a row",
      props: { perRow: 2, gap: 16, lead: false, shape: 67 },
      blocks: (newId) => [picture(newId), title(newId), words(newId, said("summary"))],
    },
    {
      id: "three",
      label: "Cards, three in a row",
      props: { perRow: 3, gap: 12, lead: false, shape: 75 },
      blocks: (newId) => [picture(newId), title(newId)],
    },
    {
      id: "lead",
      label: "One large, the others below",
      props: { perRow: 2, gap: 20, lead: true, shape: 56 },
      blocks: (newId) => [picture(newId), title(newId), words(newId, said("summary"))],
    },
    {
      id: "list",
      label: "Titles with their words",
      props: { perRow: 1, gap: 12, lead: false, whole: true },
      blocks: (newId) => [title(newId), words(newId, said("summary"))],
    },
    {
      id: "titles",
      label: "Titles alone",
      props: { perRow: 1, gap: 4, lead: false, whole: true },
      blocks: (newId) => [words(newId, said("title"))],
    },
  ],
});
