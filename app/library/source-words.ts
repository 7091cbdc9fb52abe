/** What is said of each kind of source on its page. */
export interface SourceWords {
  readonly about: string;
  readonly hint: string;
  /** What is asked for where nothing was written. */
  readonly missing: string;
  /** What an empty one is filled with; null where there can be none. */
  readonly empty: string | null;
}

export const SOURCE_WORDS: Readonly<Record<string, SourceWords>> = {
  feed: {
    about:
      "Sites whose articles come into emails: they are read every hour, and the last ones are kept.",
    hint: "The address of an RSS, Atom or JSON Feed, or of a page that has one.",
    missing: "Write the address of a feed, or of a page that has one.",
    empty: null,
  },
  catalogue: {
    about:
      "What shops sell, with prices and stock. A catalogue is read from an address, or filled from files.",
    hint: "The address of a list of products: JSON, or CSV whose first row names the columns.",
    missing: "Write the address of a list of products.",
    empty: "An empty catalogue, to be filled from files",
  },
  calendar: {
    about: "What takes place when: calendars are read every hour, and what is over drops out.",
    hint: "The address of a calendar (ICS).",
    missing: "Write the address of a calendar.",
    empty: "An empty calendar, to be filled from files",
  },
};
