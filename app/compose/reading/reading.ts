/** What the sheets show: the email as it is or was, in a language, for a reader. */
import { createStore } from "zustand";
import type { DerivedTag } from "#core/derived/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { zoneFieldOf } from "#core/fields/field.ts";
import type { Field } from "#core/fields/index.ts";
import type { LiveItem } from "#core/items/index.ts";
import type { Brand, CodeRoll, Picture, Surroundings } from "#core/kinds/kind.ts";
import { inLanguage, languageOf } from "#core/languages/index.ts";
import { fallbacksOf, type Reader, type TagContext } from "#core/merge/index.ts";
import { conditionsOf } from "#core/render/index.ts";
import type { WhoSees, WhoSeesAsker } from "../../rules/who-sees.ts";
import type { LookBack } from "../history/looking.ts";
import type { ChosenItems } from "../live/chosen.ts";
import type { Session } from "../session/session.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { ReaderChoice } from "../wire.ts";
import { type Beside, createBeside } from "./beside.ts";
import { followPictures } from "./pictures.ts";
import { createReaderKeeper, type ReaderKeeper } from "./reader.ts";

/** What stands around the email, as the page was loaded with it. */
export interface Around {
  readonly brand: Brand;
  readonly pictures: readonly Picture[];
  readonly fields: readonly Field[];
  readonly derived: readonly DerivedTag[];
  /** The fields that items of each kind have, those of one's own too. */
  readonly itemFields: readonly (Field & { readonly kind: string })[];
  readonly rolls: readonly CodeRoll[];
  /** Items the email keeps to, by their refs, as they are at their sources. */
  readonly items: readonly (readonly [string, LiveItem])[];
  /** Values that are the same for all readers. */
  readonly fixedValues: Reader["values"];
  readonly reader: ReaderChoice | null;
  /** Why it can only be looked at, in a sentence; null where it can be edited. */
  readonly held: string | null;
  /** What templates hold is held for whoever composes. */
  readonly holds: boolean;
}

export interface ReadingState {
  /** The email as it is shown: as it is now, or as it was where an earlier state is looked at. */
  readonly doc: EmailDocument;
  /** Why nothing can be changed, in a sentence; null where all can. */
  readonly fixed: string | null;
  readonly holds: boolean;
  /** The language the sheets show, and the email in it. */
  readonly lang: string;
  readonly shown: EmailDocument;
  /** The language that was chosen for the sheets; null for the reader's own. */
  readonly language: string | null;
  readonly fields: readonly Field[];
  readonly itemFields: Around["itemFields"];
  readonly surroundings: Surroundings;
  /** The contact that was chosen, and the reader that is shown. */
  readonly readingAs: ReaderChoice | null;
  readonly reader: Reader;
  /** What writing a merge tag needs to know of the email. */
  readonly tags: TagContext;
  /** Who sees what among the campaign's readers; null until it is known. */
  readonly whoSees: WhoSees | null;
  /** All that only some readers see is shown at once, one under another. */
  readonly everything: boolean;
}

export interface Reading {
  readonly store: Readable<ReadingState>;
  /** What was shown at first: the same here and where the page was made. */
  readonly first: ReadingState;
  /** The same for all that stands beside the sheets: it waits while somebody writes. */
  readonly beside: Beside<ReadingState>;
  readAs(reader: ReaderChoice | null): void;
  /** Keeps a reader besides the one that is shown, beginning with that one. */
  another(): ReaderKeeper;
  showEverything(on: boolean): void;
  showIn(language: string | null): void;
  /** A picture of the library that comes to stand here. */
  addPicture(picture: Picture): void;
  /** Pictures that come with what is shown. */
  addPictures(pictures: readonly Picture[]): void;
  /** Asks for pictures that others put in, from now on; gives the way to stop. */
  follow(): () => void;
}

const EARLIER = "This is an earlier state: go back to it first, or show it as it is now.";

export function createReading(
  around: Around,
  session: Session,
  { store: history }: Pick<LookBack, "store">,
  whoSees: WhoSeesAsker,
  chosen: Pick<ChosenItems, "store" | "want">,
): Reading {
  const { fields } = around;
  const derived = new Map(around.derived.map((tag) => [tag.id, tag]));
  const fallbacks = fallbacksOf(fields);
  const rolls = new Map(around.rolls.map((roll) => [roll.id, roll]));
  const items = new Map(around.items);
  const surroundingsWith = (pictures: Iterable<Picture>): Surroundings => ({
    live: chosen.store.getState().live,
    zoneField: zoneFieldOf(fields),
    brand: around.brand,
    publicAddress: "",
    derived,
    rolls,
    fallbacks,
    items,
    pictures: new Map([...pictures].map((picture) => [picture.id, picture])),
  });
  const readerOf = createReaderKeeper(around.fixedValues);

  type Chosen = Pick<ReadingState, "language" | "surroundings" | "readingAs" | "everything">;

  /** Everything that follows from what was chosen; what has not changed stays the same object. */
  function made(state: Chosen, before: ReadingState | null): ReadingState {
    const { looking } = history.getState();
    const doc = looking?.doc ?? session.state().doc;
    const found = conditionsOf(doc, derived);
    const same = before && before.tags.conditions.join() === found.join();
    const conditions = same ? before.tags.conditions : found;
    const contact = state.readingAs?.id ?? null;
    whoSees.want(conditions, contact);
    chosen.want(doc, contact);
    const known = whoSees.store.getState();
    const reader = readerOf(state.readingAs, conditions, known);
    const lang = state.language ?? languageOf(doc, reader.values);
    return {
      ...state,
      doc,
      fixed: looking ? EARLIER : around.held,
      holds: around.holds,
      lang,
      shown:
        before && doc === before.doc && lang === before.lang ? before.shown : inLanguage(doc, lang),
      fields,
      itemFields: around.itemFields,
      reader,
      tags: same && lang === before.lang ? before.tags : { lang, conditions, derived, fallbacks },
      whoSees: known?.late ? null : known,
    };
  }

  const store = createStore<ReadingState>(() =>
    made(
      {
        language: null,
        surroundings: surroundingsWith(around.pictures),
        readingAs: around.reader,
        everything: false,
      },
      null,
    ),
  );
  const choose = (change: Partial<Chosen>) => {
    const before = store.getState();
    const { language, surroundings, readingAs, everything } = before;
    store.setState(
      made({ language, surroundings, readingAs, everything, ...change }, before),
      true,
    );
  };
  const add = (more: readonly Picture[]) => {
    const { pictures } = store.getState().surroundings;
    choose({ surroundings: surroundingsWith([...pictures.values(), ...more]) });
  };
  session.store.subscribe(({ doc }, before) => {
    if (doc !== before.doc) choose({});
  });
  history.subscribe(() => choose({}));
  whoSees.store.subscribe(() => choose({}));
  chosen.store.subscribe(({ live }, before) => {
    if (live === before.live) return;
    const { pictures } = store.getState().surroundings;
    choose({ surroundings: surroundingsWith(pictures.values()) });
  });

  return {
    store,
    first: store.getInitialState(),
    beside: createBeside(store),
    readAs: (readingAs) => choose({ readingAs }),
    another() {
      const keeper = createReaderKeeper(around.fixedValues);
      const { readingAs, tags } = store.getState();
      keeper(readingAs, tags.conditions, whoSees.store.getState());
      return keeper;
    },
    showEverything: (everything) => choose({ everything }),
    showIn: (language) => choose({ language }),
    addPicture: (picture) => add([picture]),
    addPictures(pictures) {
      const known = store.getState().surroundings.pictures;
      const more = pictures.filter(({ id }) => !known.has(id));
      if (more.length > 0) add(more);
    },
    follow: () => followPictures(store, add),
  };
}

export const { Provider: ReadingProvider, use: useReader } = handedDown<Reading>("reading");
/** Reads what the sheets show this moment: for what is drawn on them. */
export const useReadingNow = readsOf(useReader);
export const useReading = readsOf(() => useReader().beside);
