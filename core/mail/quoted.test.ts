import fc from "fast-check";
import { expect, it } from "vitest";
import { pack } from "../merge/body.ts";
import { mergeBytes } from "../merge/index.ts";
import { base64, base64Length } from "./base64.ts";
import { coded, codedBody } from "./body.ts";
import { quoted, quotedWords } from "./quoted.ts";

const encode = (text: string) => new TextEncoder().encode(text);
const ascii = (bytes: Uint8Array) => Buffer.from(bytes).toString("latin1");

/** The standard's own words: soft breaks go, the rest is decoded; nothing else is lenient. */
function decoded(text: string): string {
  const joined = text.replace(/=\r\n/g, "");
  expect(joined).toMatch(/^(?:[\t\r\n !-<>-~]|=[0-9A-F]{2})*$/);
  const bytes = joined.replace(/=([0-9A-F]{2})/g, (_, hex) =>
    String.fromCharCode(Number.parseInt(hex, 16)),
  );
  return Buffer.from(bytes, "latin1").toString("utf8");
}
/** Lines of any text end the same way. */
const crlf = (text: string) => text.replace(/\r?\n/g, "\r\n");

const words = fc.oneof(
  fc.string({ unit: "grapheme", maxLength: 300 }),
  fc.stringMatching(/^[ a.\t\r\n=F]{0,200}$/),
  fc.constantFrom("From here", ".", "..", " ", "  ", "a ", "a  b", "\n", "\r", "é".repeat(80)),
);

it("quoted text says what was meant, in lines as long as may be", () => {
  fc.assert(
    fc.property(words, (text) => {
      const out = ascii(quoted(encode(text)));
      expect(decoded(out)).toBe(crlf(text));
      for (const line of out.split("\r\n")) {
        expect(line.length).toBeLessThanOrEqual(76);
        // What servers change under way, and what a canonical form would.
        expect(line).not.toMatch(/[ \t]$| {2}|\t|^\.|^From /);
      }
    }),
    { numRuns: 300 },
  );
});

it("values between constants say what was meant, whatever they begin and end with", () => {
  fc.assert(
    fc.property(fc.array(words, { maxLength: 6 }), fc.array(words, { maxLength: 6 }), (a, b) => {
      const pieces = a.flatMap((constant, i) => [
        constant,
        { key: `${i}`, write: () => b[i] ?? "" },
      ]);
      const body = pack([...pieces, "end"], []);
      const reader = { values: {}, token: "" };
      const { encoding, bytes } = codedBody(body)(reader);
      const meant = Buffer.from(mergeBytes(body, reader)).toString("utf8");
      if (encoding === "base64") {
        expect(Buffer.from(ascii(bytes), "base64").toString("utf8")).toBe(meant);
        return;
      }
      const out = ascii(bytes);
      // A line ends in a piece, and not between two of them.
      const whole = a.map((constant, i) => crlf(constant) + crlf(b[i] ?? "")).join("");
      expect(decoded(out)).toBe(`${whole}end`);
      for (const line of out.split("\r\n")) expect(line).not.toMatch(/[ \t]$| {2}|^\.|^From /);
    }),
    { numRuns: 300 },
  );
});

it("words alone are coded as if they stood in a text", () => {
  fc.assert(
    fc.property(words, (text) => {
      const out = quotedWords(text);
      expect(decoded(out)).toBe(crlf(text));
      if (text !== "") expect(out).toMatch(/\r\n$/);
    }),
  );
});

it("base64 is the platform's, in lines of 76", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
      const out = ascii(base64(bytes));
      expect(out.length).toBe(base64Length(bytes.length));
      expect(out.replaceAll("\r\n", "")).toBe(Buffer.from(bytes).toString("base64"));
      for (const line of out.split("\r\n")) expect(line.length).toBeLessThanOrEqual(76);
    }),
  );
});

it("takes what is shorter: letters of its own for Latin, base64 for others", () => {
  expect(coded("The path along the brook — and a café.").encoding).toBe("quoted-printable");
  expect(coded("Ο κήπος ανοίγει τον Μάιο, και όλοι είναι ευπρόσδεκτοι.").encoding).toBe("base64");
  const greek = pack(["Ο κήπος ανοίγει, ", { key: "n", write: () => "Ζωή" }, "!"], []);
  const { encoding, bytes } = codedBody(greek)({ values: {}, token: "" });
  expect(encoding).toBe("base64");
  expect(Buffer.from(ascii(bytes), "base64").toString("utf8")).toBe("Ο κήπος ανοίγει, Ζωή!");
});
