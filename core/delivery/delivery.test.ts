import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { judge, PHASES, type Phase, readReply, waitFor, watchAnswers } from "./index.ts";

it("reads replies of one line and of several", () => {
  expect(readReply("550 5.1.1 There is no such mailbox")).toEqual({
    code: 550,
    enhanced: "5.1.1",
    text: "There is no such mailbox",
  });
  expect(readReply("451 Busy")).toEqual({ code: 451, enhanced: null, text: "Busy" });
  expect(readReply("550-5.7.1 One\r\n550 two")).toMatchObject({
    enhanced: "5.7.1",
    text: "One two",
  });
  expect(readReply("250 2.0.0")).toEqual({ code: 250, enhanced: "2.0.0", text: "" });
  expect(readReply("5.1.1 no code")).toBeNull();
  expect(readReply("")).toBeNull();
});

/** Phase, reply, what it is about. `gone` and `later` say more. */
const TABLE: [Phase, string, string][] = [
  ["connect", "554 No mail from here", "service"],
  ["connect", "421 Busy", "service later"],
  ["signIn", "535 5.7.8 Wrong password", "service"],
  ["signIn", "454 4.7.0 Try later", "service later"],
  ["sender", "550 5.1.8 Not your address", "service"],
  ["sender", "550 You may not send", "service"],
  ["sender", "450 4.7.1 Rate", "service later"],
  ["sender", "552 5.3.4 Too big", "message"],
  ["reader", "550 5.1.1 No such mailbox", "reader gone"],
  ["reader", "550 5.1.10 Takes no mail", "reader gone"],
  ["reader", "550 5.1.7 Your address is wrong", "service"],
  ["reader", "550 5.1.8 Your domain is unknown", "service"],
  ["reader", "450 4.1.1 Not now", "reader later"],
  ["reader", "452 4.2.2 Full", "reader later"],
  ["reader", "552 5.2.2 Full", "reader"],
  ["reader", "550 5.2.1 Closed", "reader"],
  ["reader", "451 4.7.1 Greylisted", "reader later"],
  ["reader", "550 5.7.1 Relaying denied", "service"],
  ["reader", "550 5.7.1 Policy", "message"],
  ["reader", "550 5.4.4 No route to the host", "reader"],
  ["reader", "553 5.6.7 Takes ASCII alone", "reader"],
  ["reader", "452 4.3.1 Out of storage", "service later"],
  ["reader", "452 4.5.3 Too many recipients", "service later"],
  ["reader", "550 No such user", "reader gone"],
  ["reader", "551 Not here", "reader gone"],
  ["reader", "552 Full", "reader"],
  ["reader", "553 Name not allowed", "reader"],
  ["reader", "550 Relaying denied", "service"],
  ["reader", "554 Blocked, see our page", "service"],
  ["reader", "554 No", "message"],
  ["reader", "556 Takes no mail", "reader gone"],
  ["reader", "501 That is no address", "reader"],
  ["reader", "451 Local trouble", "reader later"],
  ["reader", "530 First the password", "service"],
  ["reader", "450 Busy", "reader later"],
  ["reader", "421 Going down", "connection later"],
  ["data", "554 5.5.1 No", "service"],
  ["data", "451 Not now", "service later"],
  ["content", "554 5.7.1 Looks like spam", "message"],
  ["content", "550 5.6.0 Broken", "message"],
  ["content", "554 Refused", "message"],
  ["content", "552 5.2.2 Your quota is used up", "service"],
  ["content", "550 5.4.5 Daily quota exceeded", "service"],
  ["content", "550 Daily limit reached", "service"],
  ["content", "452 Out of storage", "service later"],
  ["content", "550 Nothing like this", "message"],
  ["content", "553 Nor this", "message"],
  ["content", "451 4.7.0 Too fast", "service later"],
  ["content", "550 5.1.1 No such mailbox after all", "reader gone"],
  ["content", "552 5.3.4 Too big", "message"],
  ["content", "421 4.3.0 Going down", "connection later"],
  ["content", "599 What is this", "service"],
];

describe("what a refusal is about", () => {
  it.each(TABLE)("%s: %s → %s", (phase, reply, about) => {
    const { kind, lasting, gone } = judge(phase, readReply(reply));
    expect([kind, ...(gone ? ["gone"] : []), ...(lasting ? [] : ["later"])].join(" ")).toBe(about);
  });

  it("is never the reader before a reader was named, whatever the service says", () => {
    const codes = fc.integer({ min: 400, max: 599 });
    const enhanced = fc.option(
      fc.tuple(fc.nat({ max: 9 }), fc.nat({ max: 99 })).map(([a, b]) => `${a}.${b}`),
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...PHASES),
        codes,
        enhanced,
        fc.string(),
        (phase, code, e, text) => {
          const status = e === null ? "" : `${code < 500 ? 4 : 5}.${e} `;
          const verdict = judge(phase, readReply(`${code} ${status}${text}`));
          const named = phase === "reader" || phase === "content";
          if (!named) expect(verdict.kind).not.toBe("reader");
          // Only what is about the reader, and for good, ends an address.
          if (verdict.gone) expect(verdict).toMatchObject({ kind: "reader", lasting: true });
          expect(verdict.lasting).toBe(verdict.kind !== "connection" && code >= 500);
        },
      ),
    );
  });

  it("is the connection where nothing was said", () => {
    for (const phase of PHASES) expect(judge(phase, null).kind).toBe("connection");
  });
});

describe("when a launch stops by itself", () => {
  const nobody = { taken: 0, bounced: 0 };
  it("stops at once for the service, and waits longer each time, up to a bound", () => {
    expect(watchAnswers(nobody, 0.08).saw("service")).toBe("service");
    expect(watchAnswers(nobody, 0.08).saw("connection")).toBe("connection");
    const waits = Array.from({ length: 12 }, (_, i) => waitFor(i));
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    expect(waits[11]).toBe(waits[10]);
  });

  it("stops where three of the last twenty messages were refused for what is in them", () => {
    const watch = watchAnswers(nobody, null);
    expect(watch.saw("message")).toBeNull();
    for (let i = 0; i < 19; i++) expect(watch.saw("taken")).toBeNull();
    // The first has left the window.
    expect(watch.saw("message")).toBeNull();
    expect(watch.saw("message")).toBeNull();
    expect(watch.saw("message")).toBe("message");
  });

  it("asks once more than a share bounced, not before there is enough to tell", () => {
    const watch = watchAnswers(nobody, 0.08);
    for (let i = 0; i < 49; i++) expect(watch.saw("bounced")).toBeNull();
    expect(watch.saw("bounced")).toBe("bounces");
    const later = watchAnswers({ taken: 95, bounced: 8 }, 0.08);
    expect(later.saw("deferred")).toBeNull();
    expect(later.saw("bounced")).toBe("bounces");
    expect(watchAnswers({ taken: 0, bounced: 90 }, null).saw("bounced")).toBeNull();
  });
});
