/** Pages that the frames of a page ask for in a moment: what was read for the page itself is not read again for them. */
import { newId } from "../ids.ts";

export interface FramePage {
  readonly name: string;
  /** Makes it, before a frame asks; settles when one has, or will hardly do so any more. */
  ready(): Promise<void>;
}

export interface FramePages {
  /** Keeps what `make` gives (a page of HTML) for a frame that asks for it by its name; it is made once, if asked for. */
  expect(make: () => string): FramePage;
  /** The page of a name; null where there is none any more. */
  get(name: string): string | null;
}

/** The latest are remembered, and no more: a page that has been open for long has what its frames show itself. */
const KEPT = 20;
/** How long the frames of a page take to ask, at most, ms. */
const WAITED = 1_000;

export function createFramePages(): FramePages {
  const pages = new Map<string, () => string>();
  return {
    expect(make) {
      const name = newId();
      let made: string | null = null;
      const page = () => {
        made ??= make();
        return made;
      };
      let settle = () => {};
      pages.set(name, () => {
        setImmediate(settle);
        return page();
      });
      if (pages.size > KEPT) pages.delete(pages.keys().next().value!);
      return {
        name,
        ready() {
          const asked = new Promise<void>((ok) => {
            const timer = setTimeout(ok, WAITED);
            settle = () => {
              clearTimeout(timer);
              ok();
            };
          });
          page();
          return asked;
        },
      };
    },
    get: (name) => pages.get(name)?.() ?? null,
  };
}
