import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asksForLessHaste, domainOfAddress, watchDomains } from "./domains.ts";

const NOW = new Date("2026-03-02T10:00:20Z");
const later = (ms: number) => new Date(NOW.getTime() + ms);

describe("how quickly messages go to a domain", () => {
  it("is no matter where nothing is set", () => {
    const watch = watchDomains(null);
    for (let i = 0; i < 1_000; i++) expect(watch.place("a.example", NOW)).toBeNull();
  });

  it("is so many a minute, each with a place of its own; other domains do not wait for it", () => {
    const watch = watchDomains(3);
    const places = Array.from({ length: 8 }, () => watch.place("a.example", NOW)?.toISOString());
    const [one, two] = ["2026-03-02T10:01:00.000Z", "2026-03-02T10:02:00.000Z"];
    expect(places).toEqual([undefined, undefined, undefined, one, one, one, two, two]);
    expect(watch.place("b.example", NOW)).toBeNull();
  });

  it("is never more in any minute, however they come", () => {
    const waits = fc.array(fc.nat(90_000), { maxLength: 200 });
    fc.assert(
      fc.property(waits, fc.integer({ min: 1, max: 7 }), (steps, most) => {
        const watch = watchDomains(most);
        const sent = new Map<number, number>();
        let now = NOW.getTime();
        for (const step of steps) {
          now += step;
          const at = watch.place("a.example", new Date(now))?.getTime() ?? now;
          expect(at).toBeGreaterThanOrEqual(now);
          const minute = Math.floor(at / 60_000);
          sent.set(minute, (sent.get(minute) ?? 0) + 1);
          expect(sent.get(minute)).toBeLessThanOrEqual(most);
        }
      }),
    );
  });

  it("is none for a while where it asks for less haste, longer each time, until it takes something", () => {
    const watch = watchDomains(null);
    expect(watch.slower("a.example", NOW)).toEqual(later(60_000));
    expect(watch.place("a.example", NOW)).toEqual(later(60_000));
    expect(watch.place("b.example", NOW)).toBeNull();
    expect(watch.place("a.example", later(60_000))).toBeNull();
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
