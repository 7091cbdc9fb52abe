import { describe, expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { type DocNode, type Edit, SCHEMA_VERSION } from "#core/document/index.ts";
import { emailOf, ids, SURROUNDINGS } from "#core/testing/rendered.ts";
import { doc, line, phrase, type TextJson, wordsOf } from "#core/text/index.ts";
import type { Load } from "../placing/load.ts";
import { createClipboard } from "./clipboard.ts";

const TYPE = "application/x-septima-pieces+json";
const id = ids("p");
const heading = createBlock("heading", () => "h", { words: phrase("By the brook") });
const text = createBlock("text", () => "t", { words: doc("Eleven kinds are in flower.") });
const email = emailOf([heading, text]);

class Transfer {
  readonly held = new Map<string, string>();
  files: File[] = [];
  setData = (type: string, value: string) => void this.held.set(type, value);
  getData = (type: string) => this.held.get(type) ?? "";
}

/** A composer's clipboard, and what came of each event. */
function made({ chosen = ["h", "t"], fixed = null as string | null } = {}) {
  const came = { edits: [] as Edit[], loads: [] as Load[], files: 0, said: [] as string[] };
  const store = <T>(state: T) => ({ getState: () => state }) as never;
  const clipboard = createClipboard({
    reading: { store: store({ doc: email, surroundings: SURROUNDINGS, fixed }) },
    selection: { store: store({ chosen }) },
    commands: {
      run: (doing) => {
        if (doing) came.edits.push(doing.edit);
        return true;
      },
      add: (load) => Boolean(came.loads.push(load)),
      addFiles: (files) => {
        came.files += files.length;
      },
    },
    messages: { say: (words: string) => came.said.push(words), announce() {} } as never,
  });
  return {
    came,
    /** Gives whether the browser is kept from doing anything itself, once all has been done. */
    async hear(type: string, data: Transfer, target: unknown = null): Promise<boolean> {
      let prevented = false;
      await clipboard.hear({
        ...{ type, target, clipboardData: data, defaultPrevented: false },
        preventDefault() {
          prevented = true;
        },
      } as never);
      return prevented;
    },
  };
}
const paste = async (given: Record<string, string>, more: Parameters<typeof made>[0] = {}) => {
  const composer = made(more);
  const data = new Transfer();
  for (const [type, value] of Object.entries(given)) data.setData(type, value);
  const prevented = await composer.hear("paste", data);
  const [load] = composer.came.loads;
  const nodes: readonly DocNode[] = load?.kind === "ready" ? load.nodes : [];
  return { ...composer.came, prevented, nodes, types: nodes.map((node) => node.type) };
};

describe("copying", () => {
  it("takes the chosen pieces along, and their plain text for others", async () => {
    const data = new Transfer();
    expect(await made().hear("copy", data)).toBe(true);
    expect(data.getData("text/plain")).toContain("By the brook");
    expect(data.getData("text/plain")).toContain("Eleven kinds are in flower.");
    const { nodes } = await paste(Object.fromEntries(data.held));
    expect(nodes).toEqual([heading, text]);
  });

  it("takes nothing out, cutting does", async () => {
    const [copied, cut] = [made(), made()];
    await copied.hear("copy", new Transfer());
    await cut.hear("cut", new Transfer());
    expect([copied.came.edits.length, cut.came.edits.length]).toEqual([0, 1]);
  });

  it("is left to the browser where nothing is chosen, or in a field", async () => {
    const data = new Transfer();
    expect(await made({ chosen: [] }).hear("copy", data)).toBe(false);
    expect(await made().hear("cut", data, { closest: () => ({}) })).toBe(false);
    expect(data.held.size).toBe(0);
  });
});

describe("pieces that come from outside", () => {
  const piece = (...nodes: object[]) => JSON.stringify({ schemaVersion: SCHEMA_VERSION, nodes });
  it.each([
    ["no JSON", "{"],
    ["nothing", piece()],
    ["another version", JSON.stringify({ schemaVersion: SCHEMA_VERSION - 1, nodes: [heading] })],
    ["a kind that there is none of", piece({ ...heading, type: "spell" })],
    ["properties of another kind", piece({ ...heading, props: text.props })],
    ["a band beside a block", piece(email.root.children[0]!, heading)],
    ["the whole email", piece(email.root)],
    ["a prototype", `{"schemaVersion":${SCHEMA_VERSION},"nodes":[{"__proto__":{"type":"text"}}]}`],
    ["an item alone", piece(createBlock("linksRow", id).children[0]!)],
  ])("%s is refused in words, and nothing is put in", async (_, held) => {
    const { nodes, said, prevented } = await paste({ [TYPE]: held, "text/plain": "By hand" });
    expect(nodes).toEqual([]);
    expect(said).toEqual(["What was copied does not fit this email."]);
    expect(prevented).toBe(false);
  });
});

describe("what others put on the clipboard", () => {
  const words = (node: DocNode) => {
    const said = node.props.words as unknown as TextJson;
    return (said.type === "doc" ? said.content! : [said]).map(wordsOf).join("\n");
  };
  it("becomes blocks of the email, without its scripts", async () => {
    const html = `<h2 onclick="x()">Title</h2><p>One <b>two</b></p><script>alert(1)</script>`;
    const { types, nodes } = await paste({ "text/html": html, "text/plain": "Title One two" });
    expect(types).toEqual(["heading", "text"]);
    expect(nodes.map(words)).toEqual(["Title", "One two"]);
    expect(JSON.stringify(nodes)).not.toMatch(/onclick|alert/);
  });
  it("an address becomes a link, with the words an address has", async () => {
    const { types, nodes } = await paste({ "text/plain": " https://larkmoor.example/map/ " });
    expect(types).toEqual(["text"]);
    expect(words(nodes[0]!)).toBe("larkmoor.example/map");
    expect(JSON.stringify(nodes)).toContain(JSON.stringify(line("https://larkmoor.example/map/")));
  });
  it("an address of a script is words", async () => {
    const { nodes } = await paste({ "text/plain": "javascript:alert(1)" });
    expect(JSON.stringify(nodes)).not.toContain('"type":"link"');
  });
  it("rows and columns become a table", async () => {
    expect((await paste({ "text/plain": "What\tWhen\nA walk\tMonday" })).types).toEqual(["table"]);
  });
  it("words become a text; blanks alone are nothing", async () => {
    expect((await paste({ "text/plain": "Come soon" })).types).toEqual(["text"]);
    expect(await paste({ "text/plain": " \n " })).toMatchObject({ nodes: [], prevented: false });
  });
  it("pictures are sent to the library, other files are not", async () => {
    const composer = made();
    const data = new Transfer();
    data.files = [
      new File(["x"], "brook.png", { type: "image/png" }),
      new File(["x"], "notes.pdf", { type: "application/pdf" }),
    ];
    expect(await composer.hear("paste", data)).toBe(true);
    expect(composer.came).toMatchObject({ files: 1, loads: [] });
  });
  it("is left alone where the email cannot be changed, and in fields", async () => {
    const fixed = await paste({ "text/plain": "Come soon" }, { fixed: "It has been sent." });
    expect(fixed).toMatchObject({ nodes: [], prevented: false });
    const composer = made();
    const data = new Transfer();
    data.setData("text/plain", "Come soon");
    await composer.hear("paste", data, { closest: () => ({}) });
    expect(composer.came.loads).toEqual([]);
  });
});
