import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { apply } from "../document/index.ts";
import type { LinkAnswer } from "../kinds/kind.ts";
import { emailOf, SURROUNDINGS } from "../testing/rendered.ts";
import { line, tag } from "../text/index.ts";
import { addressesToAsk, runChecks } from "./index.ts";

let n = 0;
const id = () => `l${++n}`;
const button = (...address: Parameters<typeof line>) =>
  createBlock("button", id, {
    label: line("Go"),
    to: { kind: "web", address: line(...address) } as never,
  });
const HERE = "https://larkmoor.example/a";
const fine: LinkAnswer = { problem: null, gone: false, ledTo: null, redirects: 0 };
const found = (answer: LinkAnswer | null, doc = emailOf([button(HERE)])) =>
  runChecks(
    doc,
    { ...SURROUNDINGS, linkAnswers: new Map(answer ? [[HERE, answer]] : []) },
    new Map(),
  ).filter(({ check }) => check === "link-answer");

it("is silent of what nobody has asked, of what is there, and of one step on within the site", () => {
  expect(found(null)).toEqual([]);
  expect(found(fine)).toEqual([]);
  const www = "https://www.larkmoor.example/a/";
  expect(found({ ...fine, ledTo: www, redirects: 1 })).toEqual([]);
});

it("says what leads to nothing, what could not be tried, and what ends elsewhere or far, and mends it", () => {
  const problem = "There is nothing at this address (404).";
  expect(found({ ...fine, problem, gone: true })).toMatchObject([
    { severity: "look", detail: `${HERE}: ${problem}`, mends: [] },
  ]);
  expect(found({ ...fine, problem: "It took longer than 15 seconds." })).toMatchObject([
    { severity: "hint", message: "A link could not be tried" },
  ]);
  const ledTo = "https://elsewhere.example/";
  const [far] = found({ ...fine, ledTo, redirects: 1 });
  expect(far!.message).toBe("A link to larkmoor.example ends at elsewhere.example");
  const doc = emailOf([button(HERE)]);
  const ends = "https://larkmoor.example/b";
  const answer = { ...fine, ledTo: ends, redirects: 2 };
  const [often] = found(answer, doc);
  expect(often!.message).toBe("A link leads on 2 times");
  const mended = often!.mends![0]!.edits.reduce(apply, doc);
  expect(found(answer, mended)).toEqual([]);
  expect(addressesToAsk(mended)).toEqual([ends]);
});

it("asks neither machines of one's own, nor what a tag is in, nor other ways than the web", () => {
  const doc = emailOf([
    button(HERE),
    button(HERE),
    button("http://localhost:3000/x"),
    button("http://192.168.1.1/"),
    button("https://larkmoor.example/", tag("contact:first", "you")),
    button("not an address"),
    createBlock("button", id, {
      label: line("Write"),
      to: { kind: "mail", address: line("a@larkmoor.example"), subject: line() } as never,
    }),
  ]);
  expect(addressesToAsk(doc)).toEqual([HERE]);
});
