import { describe, expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { emailOf, ids } from "../testing/rendered.ts";
import type { Edit } from "./edits/index.ts";
import { find } from "./lookup.ts";
import { changed, type Numbered, ownSteps, received, replicaOf } from "./replica.ts";

const spacer = createBlock("spacer", ids("b"), { height: 10 });
const START = replicaOf("ada", 5, emailOf([spacer]));

const set = (height: number): Edit => ({
  type: "set",
  node: spacer.id,
  path: ["height"],
  value: height,
});
const height = (doc: typeof START.stored) => find(doc, spacer.id)!.node.props.height;
const change = (id: string, value: number) =>
  ({ id, edit: set(value), does: "do", step: id, of: null }) as const;
const stored = (seq: number, person: string, id: string, value: number): Numbered => ({
  ...change(id, value),
  seq,
  person,
});

describe("a tab that gets edits as they were stored", () => {
  it("passes over those it has, and refuses a gap", () => {
    const once = received(START, [stored(6, "ben", "x", 20)]);
    expect([once.replica.seq, height(once.replica.shown)]).toEqual([6, 20]);
    const twice = received(once.replica, [stored(6, "ben", "x", 20), stored(7, "ben", "y", 30)]);
    expect([twice.replica.seq, height(twice.replica.shown)]).toEqual([7, 30]);
    expect(() => received(START, [stored(7, "ben", "y", 30)])).toThrow(RangeError);
    expect(() => received(START, [stored(6, "ben", "x", 20), stored(8, "ben", "y", 30)])).toThrow(
      "An edit is missing in between",
    );
    expect(received(START, []).replica).toBe(START);
  });

  it("knows its own among those of others, and keeps what is still on its way on top", () => {
    const on = changed(changed(START, change("one", 40)), change("two", 50));
    expect(height(on.shown)).toBe(50);
    const { replica, unmerged } = received(on, [
      stored(6, "ben", "x", 20),
      stored(7, "ada", "one", 40),
      stored(8, "cleo", "z", 25),
    ]);
    expect(unmerged).toEqual([]);
    expect(replica.pending.map(({ id }) => id)).toEqual(["two"]);
    expect([replica.seq, height(replica.stored), height(replica.shown)]).toEqual([8, 25, 50]);
    // Own steps are those stored and those on their way; others' are not taken back here.
    expect(ownSteps(replica).map(({ step }) => step)).toEqual(["one", "two"]);
    const { replica: all } = received(replica, [stored(9, "ada", "two", 50)]);
    expect([all.pending, height(all.stored), height(all.shown)]).toEqual([[], 50, 50]);
  });
});
