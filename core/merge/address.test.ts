/** What links lead to, for a reader who is counted, one who is not, and for whoever else reads the email. */
import { describe, expect, it } from "vitest";
import { type Link, line, type Tag, tag } from "../text/index.ts";
import { addressParts, type LinkMode, madeAddress, placeMark, placesIn } from "./address.ts";

const email = { publicAddress: "https://mail.example.org", parameters: [] };
/** An address with what is put in shown by signs. */
const written = (to: Link, mode: LinkMode, parameters: typeof email.parameters | object[] = []) =>
  addressParts(to, 7, { ...email, parameters: parameters as never }, mode)
    .map((part) => {
      if (typeof part === "string") return part;
      return part.slot === "token" ? "<token>" : `<${part.whole ? "whole " : ""}${part.tag.ref}>`;
    })
    .join("");
const web = (...parts: Parameters<typeof line>): Link => ({ kind: "web", address: line(...parts) });
const of = (ref: string) => tag(ref, null);

describe("a link", () => {
  const own = { kind: "answer", node: "q1" } as unknown as Link;
  const rows: [Link, tracked: string, direct: string, shared: string][] = [
    [web("https://x.example/a"), "/c/<token>/7", "https://x.example/a", "https://x.example/a"],
    [{ kind: "derived", tag: "d1" }, "/c/<token>/7", "<whole derived:d1>", "<whole derived:d1>"],
    [{ kind: "mail", address: "a@x.example" }, ...three("mailto:a@x.example")],
    [{ kind: "phone", number: "+44 (0) 20-7" }, ...three("tel:+440207")],
    [{ kind: "place", node: "n3" }, ...three("#at-n3")],
    [{ kind: "webVersion" }, "/w/<token>", "/w/<token>", "#"],
    [{ kind: "preferences" }, "/p/<token>", "/p/<token>", ""],
    [{ kind: "unsubscribe" }, "/u/<token>", "/u/<token>", ""],
    [own, "/q/<token>/q1", "/q/<token>/q1", ""],
    [{ kind: "shared" }, "/s/<token>", "/s/<token>", "#"],
    [{ kind: "none" }, ...three("")],
  ];
  it.each(rows)("of kind %o leads to one place in each mode", (to, tracked, direct, shared) => {
    const whole = (address: string) =>
      address.startsWith("/") ? `${email.publicAddress}${address}` : address;
    expect(written(to, "tracked")).toBe(whole(tracked));
    expect(written(to, "direct")).toBe(whole(direct));
    expect(written(to, "shared")).toBe(whole(shared));
  });
  it("forwards with a subject, and with the shared version's address but for those who have no token", () => {
    const to: Link = { kind: "forward", subject: line("Look: ", of("contact:first"), "?") };
    const subject = "mailto:?subject=Look%3A%20<contact:first>%3F";
    const body = "&body=https%3A%2F%2Fmail.example.org%2Fs%2F<token>";
    expect(written(to, "direct")).toBe(subject + body);
    expect(written(to, "shared")).toBe(subject);
  });
  it("of a value alone is a whole address; with anything beside it the value is a part", () => {
    expect(written(web(of("contact:page")), "direct")).toBe("<whole contact:page>");
    expect(written(web("https://x.example/", of("contact:id")), "direct")).toBe(
      "https://x.example/<contact:id>",
    );
    expect(written(web(), "direct")).toBe("");
  });
});
function three(address: string): [string, string, string] {
  return [address, address, address];
}

describe("parameters", () => {
  const value: Tag = { ref: "contact:kind", fallback: null, format: null };
  const parameters = [
    { name: "from", value: "a letter & more" },
    { name: "kind", value },
  ];
  const direct = (...parts: Parameters<typeof line>) =>
    written(web(...parts), "direct", parameters);
  const both = "from=a%20letter%20%26%20more&kind=<contact:kind>";
  it("go into the query, whatever stands there and behind it", () => {
    expect(direct("https://x.example/a")).toBe(`https://x.example/a?${both}`);
    expect(direct("https://x.example/a?")).toBe(`https://x.example/a?${both}`);
    expect(direct("https://x.example/a?b=1")).toBe(`https://x.example/a?b=1&${both}`);
    expect(direct("https://x.example/a?b=1&")).toBe(`https://x.example/a?b=1&${both}`);
    expect(direct("https://x.example/a#b?c")).toBe(`https://x.example/a?${both}#b?c`);
    expect(direct("https://x.example/", of("contact:id"), "/a#b")).toBe(
      `https://x.example/<contact:id>/a?${both}#b`,
    );
    expect(direct("https://x.example/#", of("contact:id"))).toBe(
      `https://x.example/?${both}#<contact:id>`,
    );
  });
  it("leave what the address says itself under their names, and no other", () => {
    expect(direct("https://x.example/?from=me&kind")).toBe("https://x.example/?from=me&kind");
    expect(direct("https://x.example/?fromage=1")).toBe(`https://x.example/?fromage=1&${both}`);
    expect(direct("https://x.example/?kind=1")).toBe(
      "https://x.example/?kind=1&from=a%20letter%20%26%20more",
    );
  });
  it("leave a reader's own address as it is", () => {
    expect(direct(of("contact:page"))).toBe("<whole contact:page>");
  });
});

describe("places in an email", () => {
  const link = (node: string) =>
    ({ slot: "link", to: { kind: "place", node }, as: "html" }) as never;
  it("have a name where a link leads to them, in HTML alone", () => {
    const places = placesIn(["words", link("a"), link("b"), { slot: "token" } as never]);
    expect([...places]).toEqual(["a", "b"]);
    expect(placeMark({ slot: "mark", node: "a", text: null }, places)).toBe(' id="at-a"');
    expect(placeMark({ slot: "mark", node: "c", text: null }, places)).toBe("");
    expect(placeMark({ slot: "mark", node: "a", text: "words" }, places)).toBe("");
  });
});

describe("a picture that is made", () => {
  const sign = (recipe: string) => `s${recipe.length}`;
  const made = (settings: object, words: string | null) =>
    madeAddress("https://m.example", { kind: "code", settings } as never, words, sign);
  const recipeIn = (address: string) => {
    const [, recipe, signature] = /\/made\/([\w-]+)\/(.+)$/.exec(address)!;
    const text = Buffer.from(recipe!, "base64url").toString();
    return [JSON.parse(text), signature === `s${recipe!.length}.png`];
  };
  it("has its recipe in its address, signed: its settings by their names, whatever order they came in", () => {
    expect(recipeIn(made({ b: "2", a: "1" }, null))).toEqual([["code", "1", "2"], true]);
    expect(made({ b: "2", a: "1" }, null)).toBe(made({ a: "1", b: "2" }, null));
    expect(recipeIn(made({ a: "1" }, "Élu ÿ>?"))).toEqual([["code", "Élu ÿ>?", "1"], true]);
    expect(made({ format: "gif" }, null)).toMatch(/\.gif$/);
  });
  it("has an address for half a letter too, which stays what it is", () => {
    expect(recipeIn(made({ a: "1" }, "\ud83d"))).toEqual([["code", "\ud83d", "1"], true]);
  });
});
