import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Change } from "#core/document/index.ts";
import { createUnsent } from "./unsent.ts";

/** The browser's storage, which may refuse to take anything more. */
class Shelf {
  readonly held = new Map<string, string>();
  full = false;
  get length() {
    return this.held.size;
  }
  key = (i: number) => [...this.held.keys()][i] ?? null;
  getItem = (key: string) => this.held.get(key) ?? null;
  removeItem = (key: string) => void this.held.delete(key);
  setItem(key: string, value: string) {
    if (this.full) throw new DOMException("full", "QuotaExceededError");
    this.held.set(key, value);
  }
}
const change = (name: string): Change => {
  const id = `edit-of-${name}`;
  const edit = { type: "set" as const, node: "a", path: ["level"], value: 2 };
  return { id, step: id, of: null, does: "do", edit };
};
const clash = {
  ...{ id: "c1", node: "a", path: ["words"], mine: "mine", theirs: "theirs", lost: null },
} as never;

let shelf: Shelf;
beforeEach(() => {
  shelf = new Shelf();
  vi.stubGlobal("localStorage", shelf);
});
afterEach(() => vi.unstubAllGlobals());

describe("edits on their way", () => {
  it("are found by the next tab, with the state they stand on, and not by their own", () => {
    const mine = createUnsent("campaign", "one");
    mine.keep(7, [change("x"), change("y")]);
    expect(mine.left()).toEqual([]);
    const [left] = createUnsent("campaign", "two").left();
    expect(left).toMatchObject({ seq: 7, changes: [{ id: "edit-of-x" }, { id: "edit-of-y" }] });
    left!.clear();
    expect(createUnsent("campaign", "three").left()).toEqual([]);
  });

  it("go once the server has them", () => {
    const mine = createUnsent("campaign", "one");
    mine.keep(7, [change("x")]);
    mine.keep(8, []);
    expect(shelf.held.size).toBe(0);
  });

  it("are those of one campaign, though another's name begins alike", () => {
    createUnsent("campaign", "one").keep(1, [change("x")]);
    expect(createUnsent("camp", "two").left()).toEqual([]);
    expect(createUnsent("campaign2", "two").left()).toEqual([]);
  });

  it("of several tabs come one after another", () => {
    for (const tab of ["b", "a"]) createUnsent("campaign", tab).keep(1, [change(tab)]);
    const ids = createUnsent("campaign", "z")
      .left()
      .map((left) => left.changes[0]!.id);
    expect(ids).toEqual(["edit-of-a", "edit-of-b"]);
  });

  it("written before undo was an edit are read as edits that were done", () => {
    const { id, edit } = change("old");
    shelf.setItem(
      "septima.unsent.campaign.old",
      JSON.stringify({ seq: 3, envelopes: [{ id, edit }] }),
    );
    expect(createUnsent("campaign", "new").left()[0]).toMatchObject({
      seq: 3,
      changes: [{ id, edit, does: "do", step: id, of: null }],
    });
  });

  it.each(["", "{", "[]", '{"seq":-1,"changes":[]}', '{"seq":1,"changes":[{"id":"x"}]}'])(
    "that cannot be read are passed over: %s",
    (damaged) => {
      shelf.setItem("septima.unsent.campaign.bad", damaged);
      createUnsent("campaign", "good").keep(2, [change("x")]);
      const left = createUnsent("campaign", "new").left();
      expect(left.map(({ seq }) => seq)).toEqual([2]);
    },
  );
});

describe("words that wait for a choice", () => {
  it("are kept until one is made", () => {
    const mine = createUnsent("campaign", "one");
    mine.keepClash(clash);
    expect(createUnsent("campaign", "two").clashes()).toEqual([clash]);
    mine.dropClash("c1");
    expect(mine.clashes()).toEqual([]);
  });
});

describe("where the storage", () => {
  it("is full, the tab goes on", () => {
    const mine = createUnsent("campaign", "one");
    shelf.full = true;
    expect(() => {
      mine.keep(1, [change("x")]);
      mine.keepClash(clash);
    }).not.toThrow();
  });

  it("may not be touched at all, the same", () => {
    vi.stubGlobal("localStorage", undefined);
    Object.defineProperty(globalThis, "localStorage", {
      configurable: true,
      get() {
        throw new DOMException("denied", "SecurityError");
      },
    });
    const mine = createUnsent("campaign", "one");
    mine.keep(1, [change("x")]);
    mine.keep(1, []);
    mine.dropClash("c1");
    expect([mine.left(), mine.clashes()]).toEqual([[], []]);
  });
});
