import { Parser } from "htmlparser2";
import { expect, it } from "vitest";
import type { Field } from "#core/fields/index.ts";
import { HONEYPOT, signupHtml } from "./signup-html.ts";

const HOSTILE = `"><script>alert(1)</script>'&lt;`;
const FIELDS: Field[] = [
  { id: "name", label: HOSTILE, type: "text" },
  { id: "born", label: "Born", type: "date" },
  { id: "gift", label: "Gift", type: "yesNo" },
  { id: "kind", label: "Kind", type: "choice", options: ["Friend", HOSTILE] },
  { id: "likes", label: "Likes", type: "choices", options: ["Seeds", HOSTILE] },
];
const form = { language: "fr" as const, title: HOSTILE, wording: HOSTILE };
const html = signupHtml(`https://larkmoor.example/join/${HOSTILE}`, form, FIELDS, [
  { id: "news", name: HOSTILE },
]);

interface Seen {
  readonly name: string;
  readonly attributes: Record<string, string>;
}
function read(source: string) {
  const tags: Seen[] = [];
  let words = "";
  const parser = new Parser({
    onopentag: (name, attributes) => void tags.push({ name, attributes }),
    ontext: (text) => {
      words += text;
    },
  });
  parser.end(source);
  return { tags, words };
}

it("is a form that a browser sends without scripts or styles of ours", () => {
  const { tags } = read(html);
  const [first] = tags;
  expect(first).toMatchObject({ name: "form", attributes: { method: "post", lang: "fr" } });
  const names = tags.flatMap(({ attributes }) => attributes.name ?? []);
  expect([...new Set(names)]).toEqual([
    ...["email", "f.name", "f.born", "f.gift", "f.kind", "f.likes", "topic"],
    HONEYPOT,
  ]);
  expect(tags.find(({ attributes }) => attributes.name === "f.born")!.attributes.type).toBe("date");
  expect(tags.filter(({ attributes }) => attributes.name === "f.likes")).toHaveLength(2);
});

it("writes whatever people called things as words, in every place", () => {
  const { tags, words } = read(html);
  expect(tags.map(({ name }) => name)).not.toContain("script");
  // Title, wording, the label of a field, an option, a choice and a topic.
  expect(words.split(HOSTILE)).toHaveLength(7);
  const values = tags.flatMap(({ attributes }) => attributes.value ?? []);
  expect(values).toContain(HOSTILE);
  expect(tags[0]!.attributes.action).toBe(`https://larkmoor.example/join/${HOSTILE}`);
});

it("hides its trap from people and from those who listen", () => {
  const trap = html.split("\n").find((one) => one.includes(`name="${HONEYPOT}"`))!;
  expect(trap).toContain('aria-hidden="true"');
  expect(trap).toContain('tabindex="-1"');
});
