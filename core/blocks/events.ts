import { paragraph } from "../text/index.ts";
import { beside, cells, field, fileOf, more, picture, said, title, words } from "./item-designs.ts";
import { itemList } from "./item-list.ts";

/** When it is, by the clock of its place and where that differs by the reader's. */
const when = () => paragraph(field("when"), " ", field("local"));

/** A single event, picked by hand. */
export const event = itemList({
  type: "event",
  label: "Event",
  icon: "calendar-days",
  items: "calendar",
  one: true,
  choice: {},
  emptyWords: "",
  designs: [
    {
      id: "whole",
      label: "Image above",
      props: {},
      blocks: (newId) => [
        picture(newId),
        title(newId, 2),
        words(newId, when(), said("place"), said("summary")),
        more(newId, "Sign up"),
        fileOf(newId, "Add it to your calendar"),
      ],
    },
    {
      id: "words",
      label: "Without an image",
      props: {},
      blocks: (newId) => [
        title(newId, 2),
        words(newId, when(), said("place")),
        more(newId, "Sign up"),
      ],
    },
  ],
});

/** Events by rule: past ones drop out. */
export const events = itemList({
  type: "events",
  label: "Events",
  icon: "calendar-range",
  items: "calendar",
  choice: { order: "soonest", count: 3 },
  emptyWords: "Nothing is planned at the moment.",
  designs: [
    {
      id: "list",
      label: "One under another",
      props: { perRow: 1, gap: 16, whole: true },
      blocks: (newId) => [title(newId), words(newId, when(), said("place"))],
    },
    {
      id: "beside",
      label: "Image at the side",
      props: { perRow: 1, gap: 20, shape: 75 },
      blocks: (newId) => [beside(newId, "when")],
    },
    {
      id: "table",
      label: "A table, one row for each",
      props: { perRow: 1, gap: 0 },
      blocks: (newId) => [cells(newId, [[said("title"), when(), said("place")]])],
    },
    {
      id: "cards",
      label: "Two in a row",
      props: { perRow: 2, gap: 16, shape: 67 },
      blocks: (newId) => [
        picture(newId),
        title(newId),
        words(newId, when(), said("place")),
        more(newId, "Sign up"),
      ],
    },
  ],
});
