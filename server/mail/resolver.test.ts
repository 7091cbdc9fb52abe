import { expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { shippedTxt } from "../standins/dns.ts";
import { TEST_MAIL_KEYS } from "../testing/mail-keys.ts";
import { testClock } from "../testing/services.ts";
import { createDomains } from "./resolver.ts";

it("remembers what DNS said for a while, and asks again where it is told to", async () => {
  const clock = testClock();
  let asked = 0;
  const ask = async () => {
    asked++;
    return [];
  };
  const domains = createDomains(ask, TEST_MAIL_KEYS, clock);
  await Promise.all([domains.standing("a.example"), domains.records("a.example")]);
  const once = asked;
  await domains.records("a.example");
  expect(asked).toBe(once);
  await domains.records("a.example", true);
  expect(asked).toBe(2 * once);
  clock.advance(LIMITS.dnsKeptMs);
  await domains.standing("a.example");
  expect(asked).toBe(3 * once);
});

it("knows nothing where nobody answers, and does not fail", async () => {
  const ask = async () => {
    throw new Error("no network");
  };
  const domains = createDomains(ask, TEST_MAIL_KEYS, testClock());
  expect(await domains.standing("a.example")).toMatchObject({ signed: null, policy: null });
});

it("the garden's domain has its records in the stand-in, other made-up ones have none", async () => {
  const domains = createDomains(shippedTxt(TEST_MAIL_KEYS), TEST_MAIL_KEYS, testClock());
  const garden = await domains.records("larkmoor.example");
  expect(garden.map(({ state }) => state)).toEqual(["right", "right", "right", "right"]);
  expect(await domains.standing("larkmoor.example")).toMatchObject({ signed: true });
  expect(await domains.standing("nobody.example")).toMatchObject({ signed: false, policy: null });
});

it("keeps no page waiting where DNS is slow, and knows it the next time", async () => {
  let answer = () => {};
  const slow = new Promise<void>((ok) => {
    answer = ok;
  });
  const ask = async () => {
    await slow;
    return [];
  };
  const domains = createDomains(ask, TEST_MAIL_KEYS, testClock());
  expect(await domains.standing("a.example")).toBeNull();
  answer();
  await domains.records("a.example");
  expect(await domains.standing("a.example")).toMatchObject({ signed: false });
});

it("asks again soon where nobody answered", async () => {
  const clock = testClock();
  let there = false;
  const ask = async () => {
    if (!there) throw new Error("no network");
    return [];
  };
  const domains = createDomains(ask, TEST_MAIL_KEYS, clock);
  expect(await domains.standing("a.example")).toMatchObject({ signed: null });
  there = true;
  clock.advance(LIMITS.dnsUnknownMs);
  expect(await domains.standing("a.example")).toMatchObject({ signed: false });
});
