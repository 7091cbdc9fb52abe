/** What a template's change does to emails that were started from it. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { apply, type Edit, EditError, type EmailDocument, find, walk } from "../document/index.ts";
import { canonical } from "../json.ts";
import { chance } from "../random.ts";
import { lettersFrom, randomEdit } from "../testing/random-edits.ts";
import { ids } from "../testing/rendered.ts";
import { doc } from "../text/index.ts";
import { carry } from "./carry.ts";

const id = ids("c");
const text = (words: string) => createBlock("text", id, { words: doc(words) });
const [first, second, third] = [text("One"), text("Two"), text("Three")];
const band = createBand(id, [createColumn(id, [first, second])]);
const other = createBand(id, [createColumn(id, [third])]);
const column = band.children[0]!;
const BEFORE = createDocument([band, other]);

const edited = (email: EmailDocument, ...edits: Edit[]) => edits.reduce(apply, email);
const set = (node: string, path: string[], value: unknown): Edit =>
  ({ type: "set", node, path, value }) as Edit;
const carried = (after: EmailDocument, now: EmailDocument = BEFORE) => {
  const result = carry({ before: BEFORE, after, began: BEFORE, now });
  expect(canonical(result.edits.reduce(apply, now) as never)).toBe(canonical(result.doc as never));
  return result;
};
const words = (email: EmailDocument) =>
  [...walk(email.root)].flatMap(({ type, props }) =>
    type === "text"
      ? [
          /"text":"([^"]*)","type":"text"|"type":"text","text":"([^"]*)"/
            .exec(JSON.stringify(props.words))
            ?.slice(1)
            .find(Boolean),
        ]
      : [],
  );

describe("a template’s change", () => {
  it("comes into an email where nothing was changed by hand", () => {
    const after = edited(
      BEFORE,
      set(first.id, ["words"], doc("First")),
      { type: "remove", node: second.id },
      { type: "insert", parent: column.id, after: first.id, node: text("Between") },
      { type: "move", node: other.id, parent: BEFORE.root.id, after: null },
    );
    const { doc: now, kept } = carried(after);
    expect(kept).toEqual([]);
    expect(canonical(now as never)).toBe(canonical(after as never));
  });
  it("leaves what was changed by hand, and says so", () => {
    const after = edited(
      BEFORE,
      set(first.id, ["words"], doc("First")),
      set(first.id, ["colour"], "accent"),
      { type: "remove", node: second.id },
      { type: "remove", node: other.id },
    );
    const mine = edited(
      BEFORE,
      set(first.id, ["words"], doc("Mine")),
      set(second.id, ["words"], doc("Mine too")),
    );
    const { doc: now, kept } = carried(after, mine);
    expect(words(now)).toEqual(["Mine", "Mine too"]);
    expect(find(now, first.id)!.node.props.colour).toBe("accent");
    expect(kept.toSorted()).toEqual([first.id, second.id].toSorted());
  });
  it("puts what is new beside its neighbours, where they were moved to", () => {
    const added = text("New");
    const after = edited(BEFORE, {
      type: "insert",
      parent: column.id,
      after: second.id,
      node: added,
    });
    const mine = edited(BEFORE, { type: "move", node: second.id, parent: column.id, after: null });
    expect(words(carried(after, mine).doc)).toEqual(["Two", "New", "One", "Three"]);
    const gone = edited(BEFORE, { type: "remove", node: band.id });
    const { doc: now, kept } = carried(after, gone);
    expect(words(now)).toEqual(["Three"]);
    expect(kept).toEqual([added.id]);
  });
  it("moves what was not moved by hand, into what is new as well", () => {
    const fresh = createBand(id, [createColumn(id, [])]);
    const into = fresh.children[0]!.id;
    const after = edited(
      BEFORE,
      { type: "insert", parent: BEFORE.root.id, after: other.id, node: fresh },
      { type: "move", node: first.id, parent: into, after: null },
    );
    expect(canonical(carried(after).doc as never)).toBe(canonical(after as never));
  });
  it("leaves the envelope to each email", () => {
    const after = edited(BEFORE, set(BEFORE.root.id, ["envelope", "replyTo"], "x@y.example"));
    expect(carried(after).edits).toEqual([]);
  });
  it("comes in again where it was carried before, and leaves what was changed by hand before that", () => {
    const once = edited(
      BEFORE,
      set(first.id, ["words"], doc("First")),
      set(second.id, ["words"], doc("Second")),
    );
    const mine = edited(BEFORE, set(second.id, ["words"], doc("Mine")));
    const now = carried(once, mine).doc;
    const twice = edited(
      once,
      set(first.id, ["words"], doc("At first")),
      set(second.id, ["words"], doc("Next")),
    );
    const again = carry({ before: once, after: twice, began: BEFORE, now });
    expect(words(again.doc)).toEqual(["At first", "Mine", "Three"]);
    expect(again.kept).toEqual([second.id]);
  });
  it("does nothing twice", () => {
    const after = edited(BEFORE, set(first.id, ["words"], doc("First")));
    const once = carried(after);
    expect(carried(after, once.doc).edits).toEqual([]);
  });
});

/** What comes of some random edits. */
function wandered(email: EmailDocument, seed: number, steps: number): EmailDocument {
  const [random, letters] = [chance(seed), lettersFrom()];
  let made = 0;
  let now = email;
  for (let i = 0; i < steps; i++) {
    const edit = randomEdit(now, random, letters, () => `r${seed}x${++made}`, [email]);
    if (!edit) continue;
    try {
      now = apply(now, edit);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
    }
  }
  return now;
}
const OWN = ["envelope", "lang", "others", "languageField"];
const withoutOwn = ({ root }: EmailDocument) =>
  canonical({
    ...root,
    props: Object.fromEntries(Object.entries(root.props).filter(([name]) => !OWN.includes(name))),
  } as never);

it("whatever a template becomes, an untouched email becomes it too", () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const after = wandered(BEFORE, seed, 8);
      expect(withoutOwn(carried(after).doc)).toBe(withoutOwn(after));
    }),
    { numRuns: 300 },
  );
});

it("whatever was changed by hand stays, whatever the template becomes", () => {
  fc.assert(
    fc.property(fc.nat(), fc.nat(), (mine, its) => {
      const now = wandered(BEFORE, mine, 6);
      const result = carried(wandered(BEFORE, its + 1_000_000, 6), now).doc;
      for (const node of walk(now.root)) {
        const began = find(BEFORE, node.id)?.node;
        const there = find(result, node.id)?.node;
        if (!began) {
          // What somebody put in goes only with what it stands in.
          if (there) expect(canonical(there.props as never)).toBe(canonical(node.props as never));
          continue;
        }
        if (!there) continue;
        for (const [name, value] of Object.entries(node.props)) {
          if (canonical(value as never) === canonical((began.props[name] ?? null) as never))
            continue;
          expect(canonical(there.props[name] as never), name).toBe(canonical(value as never));
        }
      }
    }),
    { numRuns: 300 },
  );
});
