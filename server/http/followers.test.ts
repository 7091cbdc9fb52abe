import { expect, it } from "vitest";
import { createFollowers, type Presence } from "./followers.ts";

it("tells everybody of edits, who is there, and where; those who leave are gone for the others", () => {
  const followers = createFollowers();
  const heard: Record<string, { edits: number; people: readonly Presence[] }> = {};
  const join = (tab: string, document = "doc") =>
    followers.follow(
      document,
      { tab, name: tab.toUpperCase() },
      {
        edits: (edits) => {
          heard[tab]!.edits += edits.length;
        },
        presence: (people) => {
          heard[tab] = { edits: heard[tab]?.edits ?? 0, people };
        },
      },
    );
  join("ada1");
  const leave = join("ben1");
  join("else", "another");
  followers.tell("doc", [{} as never, {} as never]);
  expect([heard.ada1!.edits, heard.ben1!.edits, heard.else!.edits]).toEqual([2, 2, 0]);
  followers.move("doc", "ben1", "block");
  expect(heard.ada1!.people).toEqual([
    { tab: "ada1", name: "ADA1", at: null },
    { tab: "ben1", name: "BEN1", at: "block" },
  ]);
  followers.move("doc", "nobody", "block");
  leave();
  expect(heard.ada1!.people.map((one) => one.tab)).toEqual(["ada1"]);
  expect(heard.else!.people).toHaveLength(1);
});
