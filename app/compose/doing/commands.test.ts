import { beforeEach, describe, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { apply, type Edit, type EmailDocument, find } from "#core/document/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { emailOf, picture } from "#core/testing/rendered.ts";
import { phrase } from "#core/text/index.ts";
import { createCommands } from "./commands.ts";

const blocks = () =>
  ["a", "b"].map((name) => createBlock("heading", () => name, { words: phrase(name) }));
let doc: EmailDocument;
let selected: string | null;
let fixed: string | null;
let refuses: boolean;
let said: string[];
let arrived: ((picture: Picture) => void)[];

const commands = () =>
  createCommands({
    session: {
      edit(edit: Edit) {
        if (refuses) return false;
        doc = apply(doc, edit);
        return true;
      },
    },
    reading: {
      store: { getState: () => ({ doc, fixed }) },
      beside: { paintFirst() {} },
      addPicture() {},
    } as never,
    selection: {
      store: { getState: () => ({ selected }) },
      select: (to: string) => {
        selected = to;
      },
    } as never,
    uploading: {
      send: (files: readonly File[], take: (picture: Picture) => void) => {
        for (const _ of files) arrived.push(take);
      },
    } as never,
    messages: {
      say: (words: string) => said.push(words),
      announce: (words: string) => said.push(words),
    } as never,
  });
const column = () => doc.root.children[0]!.children[0]!;
const order = () =>
  column().children.map((node) => (node.type === "image" ? node.props.picture : node.id));

beforeEach(() => {
  doc = emailOf(blocks());
  [selected, fixed, refuses] = ["a", null, false];
  [said, arrived] = [[], []];
});

describe("putting in", () => {
  it("stands after the selection, is selected and said", () => {
    expect(commands().add({ kind: "new", type: "spacer" })).toBe(true);
    expect(order()).toEqual(["a", selected, "b"]);
    expect(find(doc, selected!)!.node.type).toBe("spacer");
    expect(said).toEqual(["Put in between “a” and “b”"]);
  });

  it("into what cannot be changed does nothing and says why", () => {
    fixed = "It has been sent.";
    expect(commands().add({ kind: "new", type: "spacer" })).toBe(false);
    expect(order()).toEqual(["a", "b"]);
    expect([said, selected]).toEqual([["It has been sent."], "a"]);
  });

  it("that is refused selects nothing and announces nothing", () => {
    refuses = true;
    expect(commands().add({ kind: "new", type: "spacer" })).toBe(false);
    expect([said, selected]).toEqual([[], "a"]);
  });

  it("of nothing is nothing", () => {
    expect(commands().run(null)).toBe(false);
  });
});

describe("pictures on their way", () => {
  const files = [1, 2, 3].map((n) => new File(["x"], `${n}.png`));
  const names = ["1", "2", "3"].map((n) => n.repeat(64));
  const land = (at: number) => arrived[at]!(picture(names[at]!));

  it("come in one after the other, though something else is selected meanwhile", () => {
    commands().addFiles(files, { parent: column().id, after: "a" });
    land(0);
    selected = "b";
    land(1);
    land(2);
    expect(order()).toEqual(["a", names[0], names[1], names[2], "b"]);
  });

  it("come in after the selection where the place has gone meanwhile", () => {
    commands().addFiles(files, { parent: column().id, after: "a" });
    doc = apply(doc, { type: "remove", node: "a" });
    selected = "b";
    land(0);
    expect(order()).toEqual(["b", names[0]]);
  });

  it("follow the one before them to where somebody has moved it", () => {
    commands().addFiles(files, { parent: column().id, after: null });
    land(0);
    const first = column().children[0]!.id;
    doc = apply(doc, { type: "move", node: first, parent: column().id, after: "b" });
    land(1);
    expect(order()).toEqual(["a", "b", names[0], names[1]]);
  });

  it("stand beside a block where they were dropped beside it", () => {
    commands().addFiles(files.slice(0, 1), { beside: "b", side: "right" } as never);
    land(0);
    const columns = doc.root.children.flatMap((band) => band.children);
    expect(columns.length).toBeGreaterThan(1);
    expect(JSON.stringify(doc.root)).toContain(names[0]);
  });
});
