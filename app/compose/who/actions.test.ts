import fc from "fast-check";
import { expect, it } from "vitest";
import { checkDocument, createBlock } from "#core/blocks/index.ts";
import { apply, type DocNode, type EmailDocument, find } from "#core/document/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { emailOf } from "#core/testing/rendered.ts";
import { doc, type Seen } from "#core/text/index.ts";
import type { Doing } from "../doing/doing.ts";
import { addAlternative, chainOf, leaveChain, setSeenBy, withOwnChains } from "./actions.ts";

const named: Rule = { type: "field", field: "first_name", op: "hasValue", argument: null };
const base = () =>
  emailOf(["a", "b"].map((id) => createBlock("text", () => id, { words: doc(`Words ${id}`) })));
const node = (document: EmailDocument, id: string) => find(document, id)!.node;
const seen = (one: DocNode) => one.props as unknown as Seen;
const does = (document: EmailDocument, doing: Doing | null) => apply(document, doing!.edit);
const idsOf = (nodes: readonly DocNode[]) => nodes.map(({ id }) => id);

it("adds alternatives after those there are, for everybody else, and selects them", () => {
  const first = does(base(), setSeenBy(node(base(), "a"), named));
  const second = addAlternative(first, "a")!;
  const document = does(first, second);
  checkDocument(document);
  const [a, made] = chainOf(document, node(document, "a"));
  expect([a!.id, made!.id]).toEqual(["a", second.select]);
  expect(seen(a!)).toMatchObject({ seenBy: named, chain: expect.any(String) });
  expect(seen(made!)).toMatchObject({ seenBy: null, chain: seen(a!).chain });
  // Asked for at the first of them, a third stands last all the same.
  const third = addAlternative(document, "a")!;
  const three = does(document, third);
  expect(idsOf(chainOf(three, node(three, "a")))).toEqual(["a", second.select, third.select]);
  expect(chainOf(three, node(three, "b"))).toEqual([node(three, "b")]);
  expect(addAlternative(three, three.root.id)).toBeNull();
});

it("leaves no chain of one", () => {
  const two = does(base(), addAlternative(base(), "a"));
  const three = does(two, addAlternative(two, "a"));
  const [, middle] = chainOf(three, node(three, "a"));
  const left = does(three, leaveChain(three, middle!));
  expect(seen(node(left, middle!.id)).chain).toBeNull();
  expect(chainOf(left, node(left, "a"))).toHaveLength(2);
  const none = does(left, leaveChain(left, node(left, "a")));
  for (const id of idsOf(chainOf(left, node(left, "a")))) {
    expect(seen(node(none, id)).chain).toBeNull();
  }
});

it("copies form chains of their own, or none where they are alone", () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(null, "x", "y", "z"), { minLength: 1, maxLength: 8 }),
      (chains) => {
        const copies = chains.map((chain, i) =>
          createBlock("text", () => `c${i}`, { seenBy: named, chain }),
        );
        const own = withOwnChains(copies).map(seen);
        for (const [i, chain] of chains.entries()) {
          const fellows = chains.filter((one) => one === chain).length;
          if (chain === null || fellows === 1) expect(own[i]!.chain).toBeNull();
          else expect(["x", "y", "z", null]).not.toContain(own[i]!.chain);
          expect(own[i]!.seenBy).toEqual(named);
          for (const [j, other] of chains.entries()) {
            if (own[i]!.chain === null || own[j]!.chain === null) continue;
            expect(own[i]!.chain === own[j]!.chain).toBe(chain === other);
          }
        }
      },
    ),
  );
});
