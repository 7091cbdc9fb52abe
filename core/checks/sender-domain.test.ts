import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { newEmail } from "../blocks/layout.ts";
import type { DomainStanding } from "../kinds/kind.ts";
import { emailOf, ids, SURROUNDINGS } from "../testing/rendered.ts";
import { doc } from "../text/index.ts";
import { runChecks } from "./index.ts";

const said = (senderDomain: DomainStanding | null, fromAddress = "news@Larkmoor.example") => {
  const envelope = { ...newEmail().envelope, fromAddress };
  const words = createBlock("text", ids(), { words: doc("Hello") });
  return runChecks(emailOf([words], { envelope }), { ...SURROUNDINGS, senderDomain }, new Map())
    .filter(({ check }) => check === "sender-domain")
    .map(({ severity, detail, at }) => `${severity} at ${at}: ${detail}`);
};
const standing = (change: Partial<DomainStanding>): DomainStanding => ({
  domain: "larkmoor.example",
  signed: true,
  policy: "none",
  ...change,
});

it("tells of mail that is signed with a key its domain does not publish, and what becomes of it", () => {
  expect(said(standing({ signed: false, policy: null }))[0]).toMatch(/^look at settings: Many/);
  expect(said(standing({ signed: false, policy: "reject" }))[0]).toContain("is refused");
  expect(said(standing({ signed: false, policy: "quarantine" }))[0]).toContain("is spam");
});

it("hints at a domain without a policy", () => {
  expect(said(standing({ policy: null }))[0]).toMatch(/^hint at settings/);
});

it("is silent where all is there, nobody has asked or DNS said nothing, and of another domain", () => {
  expect(said(standing({}))).toEqual([]);
  expect(said(null)).toEqual([]);
  expect(said(standing({ signed: null, policy: null }))).toEqual([]);
  expect(said(standing({ signed: false }), "news@other.example")).toEqual([]);
  expect(said(standing({ signed: false }), "")).toEqual([]);
});
