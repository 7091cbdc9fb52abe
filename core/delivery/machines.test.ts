import { describe, expect, it } from "vitest";
import { LIMITS } from "../limits.ts";
import { isScan, machineIn } from "./machines.ts";

const person = {
  agent: "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36",
  method: "GET",
  purpose: null,
  sinceMs: 60_000,
};

describe("a single open or click", () => {
  it("of a person is a person's, also where nobody knows when the message left", () => {
    expect(machineIn(person)).toBeNull();
    expect(machineIn({ ...person, sinceMs: null })).toBeNull();
    // A mail program that names itself is what somebody reads with.
    expect(machineIn({ ...person, agent: "Mailreader/115.2" })).toBeNull();
  });

  it.each([
    [{ agent: null }, "agent"],
    [{ agent: " " }, "agent"],
    [{ agent: "ExampleBot/2.1 (+https://bot.example)" }, "agent"],
    [{ agent: "Mail image proxy" }, "agent"],
    [{ agent: "curl/8.5.0" }, "agent"],
    [{ method: "HEAD" }, "fetch"],
    [{ purpose: "prefetch;prerender" }, "fetch"],
    [{ sinceMs: 200 }, "speed"],
    // A scanner on the way asks before the service has answered us.
    [{ sinceMs: -50 }, "speed"],
  ] as const)("%o is a machine's by its %s", (is, why) => {
    expect(machineIn({ ...person, ...is })).toBe(why);
  });
});

it("many links at once are a scanner's, two or three a quick reader's", () => {
  expect(isScan(LIMITS.scanLinks)).toBe(true);
  expect(isScan(LIMITS.scanLinks - 1)).toBe(false);
});
