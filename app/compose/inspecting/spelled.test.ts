import { afterEach, expect, it, vi } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { emailOf, SURROUNDINGS } from "#core/testing/rendered.ts";
import { doc } from "#core/text/index.ts";
import { inspect } from "./inspect.ts";
import { createSpelled } from "./spelled.ts";

afterEach(() => vi.unstubAllGlobals());

const answering = (words: unknown) => vi.stubGlobal("fetch", async () => Response.json({ words }));
let n = 0;
const email = (words: string) =>
  emailOf([createBlock("text", () => `s${++n}`, { words: doc(words) })]);
const looked = (words: string, spelled: ReturnType<typeof createSpelled>) => {
  const around = {
    doc: email(words),
    surroundings: SURROUNDINGS,
    fields: new Map(),
    readers: null,
  };
  const { findings, unknown } = inspect({ ...around, known: spelled.known() });
  return {
    unknown,
    wrong: findings.flatMap(({ check, word }) => (check === "spelling" ? word! : [])),
  };
};

it("asks for words that nobody has looked up, and tells of those that are wrong from then on", async () => {
  const spelled = createSpelled("c1");
  const first = looked("the gaate is open", spelled);
  expect(first.wrong).toEqual([]);
  const asked = first.unknown.find(([, words]) => words.includes("gaate"))!;
  expect(asked[1]).toEqual(expect.arrayContaining(["the", "gaate", "open"]));
  answering([[asked[0], [["gaate", ["gate"]]], true]]);
  expect(await spelled.learn(first.unknown)).toBe(true);
  const again = looked("the gaate is open", spelled);
  expect(again.wrong).toEqual(["gaate"]);
  expect(again.unknown.flatMap(([, words]) => words)).not.toContain("open");
  expect(looked("the gaate is shut", spelled).unknown.flatMap(([, words]) => words)).toEqual([
    "shut",
  ]);
  spelled.accept("Gaate");
  expect(looked("the gaate is open", spelled).wrong).toEqual([]);
});

it("does not take for right what nobody has looked at, or what no answer came for", async () => {
  const spelled = createSpelled("c1");
  const { unknown } = looked("the gaate is open", spelled);
  const [lang] = unknown[0]!;
  answering([[lang, [["gaate", []]], false]]);
  await spelled.learn(unknown);
  const again = looked("the gaate is open", spelled);
  expect(again.wrong).toEqual(["gaate"]);
  expect(again.unknown.flatMap(([, words]) => words)).toContain("open");
  vi.stubGlobal("fetch", async () => {
    throw new TypeError("cut");
  });
  expect(await spelled.learn(again.unknown)).toBe(false);
});
