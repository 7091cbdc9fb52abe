import { history } from "prosemirror-history";
import { EditorState, TextSelection } from "prosemirror-state";
import { describe, expect, it, vi } from "vitest";
import {
  type Link,
  liquidLine,
  parseText,
  type TextJson,
  type TextKind,
} from "#core/text/index.ts";
import {
  colourAt,
  commands,
  formatOf,
  hasMark,
  isIndented,
  linkAt,
  setColour,
  setLink,
} from "./formatting.ts";
import { type KeyOptions, keysOf } from "./keys.ts";

const TO: Link = { kind: "web", address: liquidLine("https://alder.example/") };

/** A paragraph of three runs, with a selection from one place to another (0 is before its first letter). */
function stateOf(from: number, to = from, kind: TextKind = "doc"): EditorState {
  const runs = [
    { type: "text", text: "plain" },
    { type: "text", text: "bold", marks: [{ type: "strong" }] },
    { type: "text", text: "linked", marks: [{ type: "link", attrs: { to: TO } }] },
  ];
  const content = kind === "doc" ? [{ type: "paragraph", content: runs }] : [runs[0]];
  const doc = parseText({ type: kind, content } as unknown as TextJson, kind);
  const first = kind === "doc" ? 1 : 0;
  return EditorState.create({
    doc,
    plugins: [history()],
    selection: TextSelection.create(doc, first + from, first + to),
  });
}
const run = (state: EditorState, command: (typeof commands)[keyof typeof commands]) => {
  let now = state;
  const done = command(state, (tr) => {
    now = state.apply(tr);
  });
  return { done, now };
};

describe("what a text has", () => {
  it("tells marks of a selection and of what is typed next", () => {
    expect(hasMark(stateOf(5, 9), "strong")).toBe(true);
    expect(hasMark(stateOf(0, 5), "strong")).toBe(false);
    expect(hasMark(stateOf(7), "strong")).toBe(true);
    const asked = run(stateOf(2), commands.strong).now;
    expect(hasMark(asked, "strong")).toBe(true);
    expect(asked.doc.eq(stateOf(2).doc)).toBe(true);
  });

  it("gives the link a cursor stands in, and the first of a selection", () => {
    expect(linkAt(stateOf(11))?.attrs.to).toEqual(TO);
    expect(linkAt(stateOf(3, 15))?.attrs.to).toEqual(TO);
    expect(linkAt(stateOf(0, 9))).toBeNull();
  });

  it("keeps its look as one text that changes when a button has to", () => {
    expect(formatOf(stateOf(1))).toBe(formatOf(stateOf(3)));
    expect(formatOf(stateOf(1))).not.toBe(formatOf(stateOf(7)));
    expect(formatOf(stateOf(1))).not.toBe(formatOf(stateOf(1, 2)));
  });
});

describe("what is given and taken", () => {
  it("links a selection, puts another link in its place, and takes it away", () => {
    const other: Link = { kind: "web", address: liquidLine("https://hazel.example/") };
    expect(run(stateOf(3), setLink(TO)).done).toBe(false);
    const linked = run(stateOf(0, 15), setLink(other)).now;
    const links = new Set<string>();
    linked.doc.descendants((node) => {
      for (const { type, attrs } of node.marks)
        if (type.name === "link") links.add(JSON.stringify(attrs.to));
    });
    expect([...links]).toEqual([JSON.stringify(other)]);
    expect(linkAt(run(linked, setLink(null)).now)).toBeNull();
  });

  it("colours words, one colour at a time", () => {
    expect(run(stateOf(3), setColour("colour", "#aa0000")).done).toBe(false);
    const red = run(stateOf(0, 9), setColour("colour", "#aa0000")).now;
    expect(colourAt(red, "colour")).toBe("#aa0000");
    expect(colourAt(red, "ground")).toBeNull();
    const blue = run(red, setColour("colour", "#0000aa")).now;
    expect(colourAt(blue, "colour")).toBe("#0000aa");
    expect(colourAt(run(blue, setColour("colour", null)).now, "colour")).toBeNull();
  });

  it("indents and outdents", () => {
    const inside = run(stateOf(2), commands.indent).now;
    expect(isIndented(inside)).toBe(true);
    expect(isIndented(run(inside, commands.outdent).now)).toBe(false);
    expect(isIndented(stateOf(2))).toBe(false);
  });
});

describe("keys", () => {
  const press = (key: string, state: EditorState, options: Partial<KeyOptions> = {}) => {
    let now = state;
    const found = keysOf({ kind: "doc", ...options }).find((keys) => keys[key]);
    const done = found?.[key]?.(state, (tr) => {
      now = state.apply(tr);
    });
    return { done, now };
  };

  it("selects all words, in whatever they stand", () => {
    const { selection } = press("Mod-a", stateOf(2)).now;
    expect([selection.from, selection.to]).toEqual([1, 16]);
  });

  it("undoes by the document's history where there is one, else by its own", () => {
    const typed = stateOf(0).apply(stateOf(0).tr.insertText("so "));
    expect(press("Mod-z", typed).now.doc.textContent).toBe("plainboldlinked");
    const onHistory = vi.fn();
    expect(press("Mod-z", typed, { onHistory }).now).toBe(typed);
    press("Shift-Mod-z", typed, { onHistory });
    expect(onHistory.mock.calls).toEqual([["undo"], ["redo"]]);
  });

  it("splits no line at Enter, and formats none", () => {
    const onEnter = vi.fn();
    const line = stateOf(2, 2, "line");
    expect(press("Enter", line, { kind: "line", onEnter }).now).toBe(line);
    expect(onEnter).toHaveBeenCalledOnce();
    for (const key of ["Mod-b", "Shift-Enter", "Mod-Enter", "Mod-k"]) {
      expect(press(key, line, { kind: "line" }).done).toBeUndefined();
    }
  });

  it("leads Tab to the next cell where there are cells", () => {
    const onTab = vi.fn(() => true);
    press("Tab", stateOf(2), { onTab });
    press("Shift-Tab", stateOf(2), { onTab });
    expect(onTab.mock.calls).toEqual([[false], [true]]);
    expect(press("Tab", stateOf(2)).done).toBe(false);
  });
});
