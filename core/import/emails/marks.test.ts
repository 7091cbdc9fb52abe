import { describe, expect, it } from "vitest";
import { doc, line, type TextJson, tag } from "../../text/index.ts";
import {
  type FoundTag,
  foundTags,
  guessedMeaning,
  lineWithTags,
  type Meaning,
  taggedLink,
  withTags,
} from "./marks.ts";

const names = (...texts: string[]) => foundTags(texts, []).map(({ name }) => name);
const found = (name: string, leads = false): FoundTag => ({ written: name, name, count: 1, leads });

describe("tags of other systems", () => {
  it.each([
    ["Dear {{first_name}},", ["first_name"]],
    ["Dear {{ first_name }},", ["first_name"]],
    ["Dear ~|name|~,", ["name"]],
    ["Dear %%First Name%%,", ["First Name"]],
    ["Dear [[name]] and <<other>>", ["name", "other"]],
    ["Dear {{ name | default: 'friend' }}", ["name"]],
    ["Dear {name}", []],
    ["Dear {name} and {name}", ["name"]],
    ["Dear {name} and {other}", []],
    ["{{ a b c d }}", []],
    ["{{name]]", []],
    ["{{if first}} {{ endif }} {{else}} {{ set }}", []],
    ["{{iffy}}", ["iffy"]],
    ["*really* *really*", []],
    ["%2B %2B %c3 %c3", []],
    ["a < b > c < b >", []],
    ["", []],
  ])("in “%s” are %j", (text, tags) => expect(names(text)).toEqual(tags));

  it("are counted, by their shortest spelling", () => {
    expect(foundTags(["{{ name | upper }} {{ name }}", "{{name}}"], [])).toEqual([
      { name: "name", written: "{{name}}", count: 3, leads: false },
    ]);
  });
  it("lead where they are all of an address", () => {
    const [whole, part] = [" {{gone}} ", "https://x.example/?c=%%CARD%%!"].map(
      (address) => foundTags([], [address])[0],
    );
    expect(whole).toMatchObject({ name: "gone", leads: true });
    expect(part).toMatchObject({ name: "CARD", written: "%%CARD%%", leads: false });
    // Words are no address.
    expect(foundTags(["{{gone}}"], [])[0]!.leads).toBe(false);
  });
});

describe("what a name most likely means", () => {
  const FIELDS = [
    { ref: "contact:first_name", label: "First name" },
    { ref: "contact:last_name", label: "Last name" },
    { ref: "contact:site", label: "Nearest site" },
    { ref: "contact:email", label: "Email address" },
  ];
  it.each([
    ["FIRST_NAME", "contact:first_name"],
    ["firstname", "contact:first_name"],
    ["fname", "contact:first_name"],
    ["lname", "contact:last_name"],
    ["first", "contact:first_name"],
    ["site", "contact:site"],
    ["nsite", "contact:site"],
    ["contact.email", "contact:email"],
    ["subscriber.first_name", "contact:first_name"],
    ["shoe_size", null],
    ["name", null],
  ])("%s is %s", (name, ref) => {
    expect(guessedMeaning(found(name), FIELDS)).toEqual(ref && { is: "tag", ref });
  });
  it.each([
    ["UNSUB", "unsubscribe"],
    ["leave_url", "unsubscribe"],
    ["opt-out", "unsubscribe"],
    ["view_in_browser", "webVersion"],
    ["ONLINE", "webVersion"],
    ["update_profile", "preferences"],
    ["manage", "preferences"],
  ])("%s leads to %s, where it leads", (name, kind) => {
    expect(guessedMeaning(found(name, true), FIELDS)).toEqual({ is: "link", kind });
    expect(guessedMeaning(found(name), FIELDS)).toBeNull();
  });
});

describe("texts", () => {
  const meanings = new Map<string, Meaning>([
    ["name", { is: "tag", ref: "contact:first_name" }],
    ["gone", { is: "link", kind: "unsubscribe" }],
    ["stays", { is: "words" }],
  ]);
  it("get tags for names that mean a value, and keep the rest to the letter", () => {
    expect(lineWithTags("Dear {{name}}, {{stays}}{{name}}!", meanings)).toEqual(
      line("Dear ", tag("contact:first_name"), ", {{stays}}", tag("contact:first_name"), "!"),
    );
    expect(lineWithTags("Nothing {{ here }}", meanings)).toEqual(line("Nothing {{ here }}"));
  });
  it("keep their marks around tags", () => {
    const marks = [{ type: "strong" }];
    const text = (part: TextJson): TextJson => ({
      type: "doc",
      content: [{ type: "paragraph", content: [part] }],
    });
    const { content } = withTags(text({ type: "text", text: "{{name}}", marks }), meanings)
      .content![0]!;
    expect(content).toEqual([
      { type: "tag", attrs: { ref: "contact:first_name", fallback: null, format: null }, marks },
    ]);
    const plain = withTags(text({ type: "text", text: "x {{name}}" }), meanings).content![0]!;
    expect(plain.content!.map((one) => Object.keys(one))).toEqual([
      ["type", "text"],
      ["type", "attrs"],
    ]);
    const same = doc("{{name}}");
    expect(withTags(same, new Map())).toBe(same);
  });
  it("lead where their tags say", () => {
    expect(taggedLink(" {{gone}} ", meanings)).toEqual({ kind: "unsubscribe" });
    expect(taggedLink("https://x.example/{{gone}}", meanings)).toBeNull();
    expect(taggedLink("https://x.example/?n={{name}}&m=1", meanings)).toEqual({
      kind: "web",
      address: line("https://x.example/?n=", tag("contact:first_name"), "&m=1"),
    });
    expect(taggedLink("https://x.example/", meanings)).toBeNull();
    expect(taggedLink("{{stays}}", meanings)).toBeNull();
  });
});
