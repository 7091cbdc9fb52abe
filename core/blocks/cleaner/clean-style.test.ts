import fc from "fast-check";
import { expect, it } from "vitest";
import { nastyText } from "../../testing/arbitrary-texts.ts";
import { cleanStyle } from "./clean-style.ts";

it.each([
  ["color: #112233; padding:4px", "color:#112233;padding:4px"],
  ["COLOR:red", "color:red"],
  ["color:red !important", "color:red !important"],
  ["font-family:'Times New Roman', serif", "font-family:'Times New Roman', serif"],
  ["color:red;;", "color:red"],
  ["/* a; b */color:red", "color:red"],
  ["color: rgb(1, 2, 3)", "color:rgb(1, 2, 3)"],
])("keeps of %s what may stand", (style, clean) => {
  expect(cleanStyle(style)).toBe(clean);
});

it.each([
  "position:fixed",
  "background:url(https://evil.example)",
  "color:url( //evil.example )",
  "width:expression(alert(1))",
  "color:javascript:alert(1)",
  "behavior:url(x)",
  "-moz-binding:x",
  "color:\\75rl(x)",
  "color:red}body{display:none",
  "color:<b>",
  "@import 'x'",
  "color",
  ":red",
  "color:",
  "font-family:'never closed",
  'font-family:"a; color',
  "color:red/*",
  "--own:1",
])("takes %s out", (style) => {
  expect(cleanStyle(style)).toBe("");
});

it("lets through what it has let through, and nothing that fetches, whatever is written", () => {
  const piece = fc.oneof(
    nastyText,
    fc.constantFrom(
      "color",
      "width",
      ":",
      ";",
      "url(",
      "/*",
      "*/",
      "'",
      '"',
      "\\",
      "expression(",
      "red",
    ),
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
      const clean = cleanStyle(pieces.join(""));
      expect(cleanStyle(clean)).toBe(clean);
      expect(clean).not.toMatch(/url\s*\(|expression\s*\(|[<>{}@\\]|\/\*/i);
    }),
  );
});
