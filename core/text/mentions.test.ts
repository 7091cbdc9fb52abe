/** What texts mention: tags and where they land, links and the words to them, and for whom. */
import { describe, expect, it } from "vitest";
import type { Rule } from "../rules/index.ts";
import {
  doc,
  EVERYBODY_KEY,
  type Link,
  line,
  liquidMentions,
  paragraph,
  ruleKey,
  type TextJson,
  type TextMention,
  tag,
  textMentions,
} from "./index.ts";

const RULE = { type: "field", field: "kind", op: "is", argument: "Friend" } as Rule;
const web = (...parts: Parameters<typeof line>): Link => ({ kind: "web", address: line(...parts) });
const of = (ref: string) => tag(ref, null);
const linked = (text: string, to: Link): TextJson => ({
  ...{ type: "text", text, marks: [{ type: "link", attrs: { to: to as never } }] },
});
const forSome = (text: string, seenBy: Rule | null, chain: string | null): TextJson => ({
  ...{ type: "text", text, marks: [{ type: "who", attrs: { seenBy, chain } as never }] },
});
const inParagraph = (...content: TextJson[]): TextJson => doc({ type: "paragraph", content });

/** Each mention in one line of words. */
function told(gather: (sink: (mention: TextMention) => void) => void): string[] {
  const found: string[] = [];
  gather((one) => {
    const when = one.when ? ` when ${one.when.all.length} and not ${one.when.none.length}` : "";
    if (one.what === "tag") {
      found.push(`tag ${one.tag.ref} ${one.lands.encoding} ${one.lands.context}${when}`);
    } else if (one.what === "link") found.push(`link ${one.to.kind} “${one.words}”${when}`);
    else
      found.push(
        `condition ${one.key === EVERYBODY_KEY ? "else" : one.key === ruleKey(RULE)}${when}`,
      );
  });
  return found;
}
const inText = (text: TextJson, context: "html" | "header" = "html") =>
  told((sink) => textMentions(text, context, null, sink));

describe("a text mentions", () => {
  it("its tags in reading order, and where they land", () => {
    const text = doc(paragraph("Dear ", of("contact:first")), paragraph(of("brand:name")));
    expect(inText(text)).toEqual(["tag contact:first none html", "tag brand:name none html"]);
    expect(inText(line(of("contact:first")), "header")).toEqual(["tag contact:first none header"]);
  });
  it("addresses of the email itself as links, but in a header, where they are words", () => {
    const own = line(of("campaign:unsubscribe"), of("campaign:web_version"));
    expect(inText(own)).toEqual(["link unsubscribe “”", "link webVersion “”"]);
    expect(inText(own, "header")).toHaveLength(2);
    expect(inText(own, "header")[0]).toBe("tag campaign:unsubscribe none header");
  });
  it("a link once with all its words, two that lead to the same place twice, and the tags of its address", () => {
    const to = web("https://x.example/?a=", of("contact:id"));
    expect(inText(inParagraph(linked("one ", to), { ...linked("two", to) }))).toEqual([
      "link web “one two”",
      "tag contact:id percent attribute",
    ]);
    const again = inParagraph(linked("one", to), { type: "text", text: " or " }, linked("two", to));
    expect(inText(again).filter((one) => one.startsWith("link"))).toHaveLength(2);
    expect(inText(inParagraph(linked("page", web(of("contact:page")))))).toEqual([
      "link web “page”",
      "tag contact:page address attribute",
    ]);
    const forward: Link = { kind: "forward", subject: line(of("contact:first")) };
    expect(inText(inParagraph(linked("on", forward)))).toEqual([
      "link forward “on”",
      "tag contact:first percent attribute",
    ]);
  });
  it("the conditions of its words before what they say, and what they say for those alone", () => {
    const first = { type: "tag", attrs: of("contact:first") as never };
    const text = inParagraph(
      forSome("Dear friend", RULE, "c"),
      { ...first, marks: [{ type: "who", attrs: { seenBy: RULE, chain: null } as never }] },
      forSome("Dear all", null, "c"),
      first,
    );
    const found = inText(text);
    expect(found.filter((one) => one.startsWith("condition"))).toContain("condition true");
    expect(found.at(-1)).toBe("tag contact:first none html");
    expect(found.find((one) => one.startsWith("tag"))).toBe(
      "tag contact:first none html when 1 and not 0",
    );
  });
  it("nothing where it has no content, of whatever shape it is", () => {
    expect(inText({ type: "doc" })).toEqual([]);
    expect(inText({ type: "doc", content: "x" } as never)).toEqual([]);
  });
});

describe("words with marks by hand mention", () => {
  it("their tags as they land there, and the addresses of the email as links", () => {
    const source = 'Dear {{ contact.first | default: "friend" }}, {{ campaign.unsubscribe }}';
    for (const context of ["html", "text"] as const) {
      expect(told((sink) => liquidMentions(source, context, null, sink))).toEqual([
        `tag contact:first none ${context}`,
        "link unsubscribe “”",
      ]);
    }
  });
});
