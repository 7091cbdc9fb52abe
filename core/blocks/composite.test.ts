/** Blocks made of several parts: what each part switched off or turned around does to the email. */
import { describe, expect, it } from "vitest";
import { blockAlone, PICTURE } from "../testing/rendered.ts";
import { doc, line, phrase, tag } from "../text/index.ts";

const picture = PICTURE;
const made = (type: string, props: object) =>
  blockAlone(type, props, { reader: { values: { "contact:name": "Zoë" }, token: "t" } });

describe("picture and words", () => {
  const base = {
    picture,
    alt: line("The glasshouse"),
    title: phrase("Glass by lamp"),
    words: doc("Friday evening."),
  };
  const parts = { picture: true, title: true, words: true };
  const at = (html: string, words: string) => html.indexOf(words);

  it("gives picture and words their shares, which fill the width", () => {
    const { html } = made("pictureAndWords", { ...base, share: 25 });
    // 600 px less 28 on either side.
    expect(html).toContain('<td width="136" valign="top" style="width:136px">');
    expect(html).toContain('<td width="408" valign="top" style="width:408px">');
    expect(html).toMatch(/<img[^>]+width="116" height="58"/);
  });

  it("puts the picture left or right on wide, and first or last on narrow", () => {
    const order = (side: string, onNarrow: string) => {
      const { html } = made("pictureAndWords", { ...base, side, onNarrow });
      return {
        source: at(html, "<img") < at(html, "Glass by lamp</h3>") ? "picture" : "words",
        turned: html.includes('<div dir="rtl" style="font-size:0;text-align:center">'),
      };
    };
    expect(order("start", "picture")).toEqual({ source: "picture", turned: false });
    expect(order("end", "words")).toEqual({ source: "words", turned: false });
    expect(order("start", "words")).toEqual({ source: "words", turned: true });
    expect(order("end", "picture")).toEqual({ source: "picture", turned: true });
  });

  it("turns the columns back, so that words read their own way", () => {
    const { html } = made("pictureAndWords", { ...base, side: "end", onNarrow: "picture" });
    expect(html.match(/<div dir="ltr" class="cl"/g)).toHaveLength(2);
    expect(html).toContain(
      'cellspacing="0" width="544" dir="rtl" style="width:544px"><tr><td width="218" valign="top" dir="ltr" style="width:218px">',
    );
  });

  it("stays side by side where that is wanted", () => {
    const { html } = made("pictureAndWords", { ...base, onNarrow: "keep", side: "end" });
    expect(at(html, "Glass by lamp</h3>")).toBeLessThan(at(html, "<img"));
    expect(html).toContain('<td width="218" valign="top" style="width:40.07%;');
  });

  it("leaves parts out that are switched off, in both versions", () => {
    const none = made("pictureAndWords", { ...base, parts: { ...parts, picture: false } });
    expect(none.html).not.toContain("<img");
    expect(none.text).toBe("Glass by lamp\n\nFriday evening.");
    const alone = made("pictureAndWords", {
      ...base,
      parts: { picture: true, title: false, words: false },
    });
    expect(alone.html).toMatch(/<img[^>]+width="544" height="272"/);
    expect(alone.text).toBe("[The glasshouse]");
    const untitled = made("pictureAndWords", { ...base, parts: { ...parts, title: false } });
    expect(untitled.html).not.toContain("Glass by lamp");
  });
});

describe("a quote", () => {
  it("has stars as a picture with words, and in plain text as words", () => {
    const { html, text } = made("quote", { words: doc("Lovely."), who: line("Ada"), stars: 4 });
    expect(html).toContain('role="img" aria-label="4 of 5 stars"');
    expect(html).toContain("★★★★☆");
    expect(text).toBe("4 of 5 stars\n“Lovely.”\n— Ada");
  });
  it("needs neither stars nor a name", () => {
    const { html, text } = made("quote", { words: doc("Lovely."), who: line(), stars: 0 });
    expect(html).not.toContain("stars");
    expect(html).not.toContain("— ");
    expect(text).toBe("“Lovely.”");
  });
});

describe("a coupon", () => {
  it("shows its code, with the parts that are on", () => {
    const { html, text } = made("coupon", {
      code: line("GARDEN-", tag("contact:name", "YOU", { type: "case", to: "upper" })),
      title: line("A tenth off"),
      parts: { title: true, terms: false },
    });
    expect(html).toContain(">GARDEN-ZOË</p>");
    expect(text).toBe("A tenth off\nCode: GARDEN-ZOË");
  });
});

describe("a button", () => {
  it("leads where it says, and is words alone where it leads nowhere", () => {
    const to = { kind: "web", address: line("https://example.org/?a=1&b=2") };
    const linked = made("button", { label: line("Visit"), to });
    expect(linked.html).toContain('<a href="https://example.org/?a=1&amp;b=2"');
    expect(linked.text).toBe("Visit: https://example.org/?a=1&b=2");
    const bare = made("button", { label: line("Visit"), to: { kind: "none" } });
    expect(bare.html).not.toContain("<a ");
    expect(bare.text).toBe("Visit");
  });
  it("is a tap target of 44 px", () => {
    for (const size of [12, 16, 28]) {
      const { html } = made("button", { size });
      const [, padding, lineHeight] = /padding:(\d+)px 20px;.*?line-height:(\d+)px/.exec(html)!;
      expect(2 * Number(padding) + Number(lineHeight)).toBeGreaterThanOrEqual(44);
      // The table-only engine has a rule for each rise that can come up.
      expect(html).toContain(`class="r${padding} `);
      expect(html).toContain(`.r${padding}{mso-text-raise:${padding}px}`);
    }
  });
  it("has round corners in the table-only engine too, where its width is known", () => {
    const to = { kind: "web", address: line("https://example.org/") };
    const { html } = made("button", { label: line("Visit & see"), to, wide: "full", corner: 11 });
    expect(html).toContain(
      '<!--[if mso]><v:roundrect xmlns:w="urn:schemas-microsoft-com:office:word" href="https://example.org/" style="width:544px;height:44px;v-text-anchor:middle" arcsize="25%"',
    );
    expect(html).toMatch(/<!--\[if !mso\]><!--><a href="https:\/\/example\.org\/"/);
    expect(html.match(/Visit &amp; see/g)).toHaveLength(2);
    expect(made("button", { to, wide: "full", corner: 0 }).html).not.toContain("v:roundrect");
    expect(made("button", { to, corner: 11 }).html).not.toContain("v:roundrect");
  });
  it("can mail and call", () => {
    const mail = made("button", { to: { kind: "mail", address: "hello@example.org" } });
    expect(mail.html).toContain('href="mailto:hello@example.org"');
    const call = made("button", { to: { kind: "phone", number: "+44 (0)20 7946-0000" } });
    expect(call.html).toContain('href="tel:+4402079460000"');
  });
});
