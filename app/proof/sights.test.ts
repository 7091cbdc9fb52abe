import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { Sights } from "./sights.ts";

/** What was asked for, each to be answered when the test says so. */
let asked: { contacts: number[]; answer(...contacts: number[]): void; cut(): void }[];
beforeEach(() => {
  asked = [];
  vi.stubGlobal(
    "fetch",
    (path: string) =>
      new Promise<Response>((ok, fail) => {
        const query = new URL(path, "http://here").searchParams;
        expect(query.get("as")).toBe("sent");
        asked.push({
          contacts: query.get("contacts")!.split(",").map(Number),
          answer: (...contacts) =>
            ok(Response.json({ width: 600, sights: contacts.map((contact) => ({ contact })) })),
          cut: () => fail(new TypeError("cut")),
        });
      }),
  );
});
afterEach(() => vi.unstubAllGlobals());

const turn = () => new Promise((ok) => setTimeout(ok, 0));
const begun = () => new Sights("c1", { as: "sent" });

it("asks a few at a time, the latest first, each once, and none that is out of sight again", async () => {
  const sights = begun();
  const most = LIMITS.sightsAtOnce;
  const all = Array.from({ length: most + 4 }, (_, i) => i + 1);
  for (const contact of all) sights.want(contact);
  sights.want(1);
  sights.leave(2);
  await turn();
  expect(asked.map(({ contacts }) => contacts)).toEqual([all.slice(4)]);
  // What comes into sight meanwhile waits its turn.
  sights.want(99);
  await turn();
  expect(asked).toHaveLength(1);
  asked[0]!.answer(...all.slice(4));
  await turn();
  expect(asked[1]!.contacts).toEqual([1, 3, 4, 99]);
  expect(sights.of(5)).toMatchObject({ contact: 5 });
  expect(sights.of(1)).toBeUndefined();
  asked[1]!.answer(1, 3, 4, 99);
  await turn();
  sights.want(1);
  await turn();
  expect(asked).toHaveLength(2);
});

it("says what could not be had, and asks again when it is told to", async () => {
  const sights = begun();
  const heard = vi.fn();
  const stop = sights.subscribe(heard);
  sights.want(1);
  sights.want(2);
  await turn();
  asked[0]!.cut();
  await turn();
  expect([sights.of(1), sights.of(2)]).toEqual(["failed", "failed"]);
  sights.again(1);
  expect(sights.of(1)).toBeUndefined();
  await turn();
  // Somebody who is gone is answered with nothing.
  asked[1]!.answer();
  await turn();
  expect(sights.of(1)).toBe("failed");
  sights.again(1);
  await turn();
  asked[2]!.answer(1);
  await turn();
  expect(sights.of(1)).toMatchObject({ contact: 1 });
  stop();
  const before = heard.mock.calls.length;
  sights.put(1, { looked: true });
  expect(sights.of(1)).toMatchObject({ looked: true });
  sights.put(2, { looked: true });
  expect(sights.of(2)).toBe("failed");
  expect(heard).toHaveBeenCalledTimes(before);
});
