import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asksForLessHaste, domainOfAddress, watchDomains } from "./domains.ts";

const NOW = new Date("2026-03-02T10:00:20Z");
const later = (ms: number) => new Date(NOW.getTime() + ms);

describe("how quickly messages go to a domain", () => {
  it("is no matter where nothing is set", () => {
    const watch = watchDomains();
    for (let i = 0; i < 1_000; i++) expect(watch.place("a.example", i, NOW, null)).toBeNull();
  });

  it("is so many a minute, each with a place of its own; other domains do not wait for it", () => {
    const watch = watchDomains();
    const places = Array.from({ length: 8 }, (_, i) =>
      watch.place("a.example", i, NOW, 3)?.toISOString(),
    );
    const [one, two] = ["2026-03-02T10:01:00.000Z", "2026-03-02T10:02:00.000Z"];
    expect(places).toEqual([undefined, undefined, undefined, one, one, one, two, two]);
    expect(watch.place("b.example", 9, NOW, 3)).toBeNull();
    // It goes when it comes in its minute, and takes no other place.
    expect(watch.place("a.example", 3, new Date(one), 3)).toBeNull();
    expect(watch.place("a.example", 20, new Date(one), 3)?.toISOString()).toBe(two);
    // Held until later in the same minute, it waits for that moment.
    const until = watch.slower("c.example", later(-50_000));
    expect(watch.place("c.example", 1, NOW, 3)).toEqual(until);
    expect(until > NOW).toBe(true);
  });

  it("is never more in any minute, however they come", () => {
    const waits = fc.array(fc.nat(90_000), { maxLength: 200 });
    fc.assert(
      fc.property(waits, fc.integer({ min: 1, max: 7 }), (steps, most) => {
        const watch = watchDomains();
        const sent = new Map<number, number>();
        let now = NOW.getTime();
        for (const [i, step] of steps.entries()) {
          now += step;
          const at = watch.place("a.example", i, new Date(now), most)?.getTime() ?? now;
          expect(at).toBeGreaterThanOrEqual(now);
          const minute = Math.floor(at / 60_000);
          sent.set(minute, (sent.get(minute) ?? 0) + 1);
          expect(sent.get(minute)).toBeLessThanOrEqual(most);
        }
      }),
    );
  });

  it("is none for a while where it asks for less haste, longer each time, until it takes something", () => {
    const watch = watchDomains();
    expect(watch.slower("a.example", NOW)).toEqual(later(60_000));
    expect(watch.place("a.example", 1, NOW, null)).toEqual(later(60_000));
    expect(watch.place("b.example", 2, NOW, null)).toBeNull();
    expect(watch.place("a.example", 1, later(60_000), null)).toBeNull();
    expect(watch.slower("a.example", later(60_000))).toEqual(later(240_000));
    watch.took("a.example");
    expect(watch.slower("a.example", NOW)).toEqual(later(60_000));
  });
});

it.each([
  ["421 4.7.0 Too many connections, slow down", true],
  ["450 4.7.1 Rate limit exceeded", true],
  ["451 4.7.500 Server busy, throttled", true],
  ["450 4.2.0 Greylisted", false],
  ["550 5.7.1 Too many complaints", false],
])("%s asks for less haste: %s", (reply, asks) => {
  expect(asksForLessHaste(reply)).toBe(asks);
});

it("takes the domain behind the last @", () => {
  expect(domainOfAddress('"a@b"@Mail.Example')).toBe("mail.example");
});
