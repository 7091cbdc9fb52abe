import fc from "fast-check";
import { expect, it } from "vitest";
import {
  addressSpec,
  dateSpec,
  encodedWords,
  field,
  mailbox,
  oneLine,
  unstructured,
} from "./header.ts";

const text = fc.oneof(
  fc.string({ unit: "grapheme", maxLength: 160 }),
  fc.stringMatching(/^[ a="\\@<>,;:\r\n\t?]{0,120}$/),
  fc.constantFrom("=?utf-8?q?x?=", "a".repeat(400), "\r\nBcc: all@example.org"),
);

/** RFC 2047, read strictly. */
function read(value: string): string {
  const unfolded = value.replace(/\r\n /g, " ");
  const bytes = (kind: string, body: string) =>
    kind === "b"
      ? Buffer.from(body, "base64")
      : Buffer.from(
          body
            .replaceAll("_", " ")
            .replace(/=([0-9A-F]{2})/g, (_, hex) => String.fromCharCode(Number.parseInt(hex, 16))),
          "latin1",
        );
  return unfolded
    .replace(/(=\?utf-8\?[qb]\?[^? ]*\?=) (?==\?)/g, "$1")
    .replace(/=\?utf-8\?([qb])\?([^? ]*)\?=/g, (_, kind, body) =>
      bytes(kind, body).toString("utf8"),
    );
}

it("a subject says what was meant, in lines as long as may be, and begins no field", () => {
  fc.assert(
    fc.property(text, (words) => {
      const whole = field("Subject", unstructured(words));
      expect(whole).toMatch(/^Subject: /);
      expect(whole.endsWith("\r\n")).toBe(true);
      const lines = whole.slice(0, -2).split("\r\n");
      for (const [i, line] of lines.entries()) {
        if (i > 0) expect(line).toMatch(/^ /);
        expect(line).toMatch(/^[\x20-\x7e]*$/);
        expect(line.length).toBeLessThan(998);
        if (line.includes("=?utf-8?")) expect(line.length).toBeLessThanOrEqual(76);
        else if (line.includes(" ", 12)) expect(line.length).toBeLessThanOrEqual(300);
      }
      // Lone halves of letters become what they are in UTF-8.
      const meant = Buffer.from(oneLine(words)).toString("utf8");
      expect(read(whole.slice("Subject: ".length, -2))).toBe(meant);
    }),
    { numRuns: 400 },
  );
});

it("no letter is cut in two, and every word is short", () => {
  fc.assert(
    fc.property(fc.string({ unit: "grapheme", minLength: 1, maxLength: 200 }), (words) => {
      const coded = encodedWords(words).split("\r\n ");
      for (const word of coded) expect(word.length).toBeLessThanOrEqual(75);
      // Each is read by itself: half a letter would be read as something else.
      expect(coded.map(read).join("")).toBe(words);
    }),
  );
});

it("a name stands as it is, in quotes, or coded", () => {
  const of = (name: string) => mailbox({ name, address: "a@b.example" });
  expect(of("")).toBe("a@b.example");
  expect(of("Larkmoor News")).toBe("Larkmoor News <a@b.example>");
  expect(of('Smith, "Jo" \\ Sons')).toBe('"Smith, \\"Jo\\" \\\\ Sons" <a@b.example>');
  expect(of("Zoë")).toBe("=?utf-8?q?Zo=C3=AB?= <a@b.example>");
  expect(of("=?utf-8?q?x?=")).toMatch(/^=\?utf-8\?q\?=3D=3Futf-8/);
  expect(of("x\r\nBcc: all@example.org")).toBe('"x Bcc: all@example.org" <a@b.example>');
});

it("addresses are written as the standards have them", () => {
  expect(addressSpec("Ada.B+x@Larkmoor.Example")).toBe("Ada.B+x@larkmoor.example");
  expect(addressSpec("zoë@jardin.example")).toBe("zoë@jardin.example");
  expect(addressSpec("a@bücher.example")).toBe("a@xn--bcher-kva.example");
  expect(addressSpec('"a b"@x.example')).toBe('"a b"@x.example');
  expect(addressSpec("a b@x.example")).toBe('"a b"@x.example');
  expect(addressSpec("a..b@x.example")).toBe('"a..b"@x.example');
  expect(addressSpec("a>,<b@x.example\r\nBcc: c@d.example")).not.toMatch(/[\r\n]/);
});

it("a moment is written in UTC", () => {
  expect(dateSpec(new Date("2026-03-02T09:05:07Z"))).toBe("Mon, 2 Mar 2026 09:05:07 +0000");
});
