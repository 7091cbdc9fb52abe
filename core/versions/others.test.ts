import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import type { DocNode } from "../document/index.ts";
import { emailOf, ids, rendered } from "../testing/rendered.ts";
import { doc, line, type TextJson } from "../text/index.ts";
import { forOthers } from "./others.ts";

const web = { kind: "web", address: line("https://larkmoor.example/") } as const;
const linked = (words: string, to: object): TextJson => ({
  type: "text",
  text: words,
  marks: [{ type: "link", attrs: { to: to as never } }],
});
const shared = (blocks: DocNode[]) => rendered(forOthers(emailOf(blocks)), { links: "shared" });

it("takes out what only the reader can follow, wherever it stands", () => {
  const id = ids();
  const words = doc({
    type: "paragraph",
    content: [linked("leave", { kind: "unsubscribe" }), linked("look", web)],
  });
  const { html, text } = shared([
    createBlock("footer", id, {
      why: doc({ type: "paragraph", content: [linked("choose", { kind: "preferences" })] }),
    }),
    createBlock("text", id, { words }),
    createBlock("button", id, { to: { kind: "webVersion" } }),
    createBlock("html", id, { source: '<a href="{{ email.unsubscribe }}">out</a>' }),
  ]);
  for (const version of [html, text]) {
    expect(version).not.toMatch(/\/[upws]\//);
    expect(version).toContain("https://larkmoor.example/");
    for (const kept of ["leave", "choose", "look", "out"]) expect(version).toContain(kept);
  }
  expect(html).not.toContain(">Unsubscribe<");
});

it("does not say whom it was sent to", () => {
  const parts = { sentTo: true };
  const footer = () => createBlock("footer", ids(), { parts });
  expect(rendered(emailOf([footer()])).text).toContain("This was sent to");
  const { html, text } = shared([footer()]);
  for (const version of [html, text]) expect(version).not.toContain("This was sent to");
});

it("leads shares to the page itself, and begins a message without an address of the reader's", () => {
  const { html } = shared([createBlock("shareRow", ids(), {}, undefined)]);
  const hrefs = [...html.matchAll(/ href="([^"]*)"/g)].map(([, href]) => href);
  for (const href of hrefs) expect(href).toMatch(/^(#|mailto:\?subject=[^&]*)$/);
});

it("leaves an email alone that has nothing of the kind, and the one it was given", () => {
  const email = emailOf([createBlock("text", ids()), createBlock("button", ids("b"), { to: web })]);
  const before = JSON.stringify(email);
  expect(forOthers(email)).toEqual(email);
  forOthers(emailOf([createBlock("footer", ids())]));
  expect(JSON.stringify(email)).toBe(before);
});
