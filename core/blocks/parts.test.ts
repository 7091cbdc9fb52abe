import { describe, expect, it } from "vitest";
import { runChecks } from "../checks/index.ts";
import { type DocNode, valueAt, withValue } from "../document/index.ts";
import type { Json } from "../json.ts";
import type { Control } from "../kinds/kind.ts";
import { mentionsIn, refsIn } from "../mentions/index.ts";
import { emailOf, ids, PICTURE, picture, rendered, SURROUNDINGS } from "../testing/rendered.ts";
import { line, tag } from "../text/index.ts";
import { BLOCKS, createBlock, nodeKind, textsOf } from "./index.ts";
import { isPartShown, partOf, shownChildren } from "./parts.ts";

const id = ids("p");
const withParts = BLOCKS.flatMap((kind) => {
  const { parts } = createBlock(kind.type, id).props;
  return parts ? [[kind, Object.keys(parts)] as const] : [];
});

/** Another value than a control has. */
function another(control: Control, value: Json | undefined): Json | undefined {
  switch (control.control) {
    case "line":
      return line("never seen") as unknown as Json;
    case "link":
      return { kind: "web", address: line("https://other.example/") } as unknown as Json;
    case "picture":
      return PICTURE;
    case "number":
      return value === control.min ? control.max : control.min;
    case "colour":
      return "#123456";
    case "choice":
      return control.options.find((option) => option.value !== value)!.value;
    case "switch":
      return !value;
    case "day":
      return "2026-12-24";
    default:
      return undefined;
  }
}

const around = { ...SURROUNDINGS, pictures: new Map([[PICTURE, picture(PICTURE)]]) };
const whole = (node: DocNode) => rendered(emailOf([node]), around);

/** A block with all its parts, and with something in each of them. */
function full(type: string): DocNode {
  const node = createBlock(type, id);
  const filled: Record<string, Json> = {
    parts: Object.fromEntries(Object.keys(node.props.parts as object).map((one) => [one, true])),
    picture: PICTURE,
    to: another({ control: "link", path: [], label: "" }, undefined)!,
    signature: { picture: PICTURE },
    until: "2026-12-01",
  };
  const own = Object.entries(filled).filter(([name]) => name in node.props);
  return { ...node, props: { ...node.props, ...Object.fromEntries(own) } };
}
const without = (node: DocNode, part: string): DocNode => ({
  ...node,
  props: withValue(node.props, ["parts", part], false),
});

describe.each(withParts)("$label", (kind, parts) => {
  const all = full(kind.type);
  it("names properties and parts that it has", () => {
    for (const [property, part] of Object.entries(kind.partOf ?? {})) {
      expect(all.props, property).toHaveProperty(property);
      expect(parts).toContain(part);
    }
  });

  it.each(parts)("says what belongs to “%s”: what does nothing while it is off", (part) => {
    const off = without(all, part);
    for (const control of [...kind.content, ...kind.style]) {
      if (!("path" in control) || control.path[0] === "parts") continue;
      const value = another(control, valueAt(all.props, control.path));
      if (value === undefined) continue;
      const changes = (node: DocNode) => {
        const other = { ...node, props: withValue(node.props, control.path, value) };
        return JSON.stringify(whole(other)) !== JSON.stringify(whole(node));
      };
      const belongs = partOf(off, control.path) === part;
      expect(isPartShown(off, control.path), control.label).toBe(!belongs);
      if (belongs || changes(all)) expect(changes(off), control.label).toBe(!belongs);
    }
  });

  it.each(parts)("says the same of what is in its items, for “%s”", (part) => {
    const off = without(all, part);
    for (const item of shownChildren(off)) {
      const own = nodeKind(item.type)!;
      for (const control of [...own.content, ...own.style]) {
        if (!("path" in control)) continue;
        const value = another(control, valueAt(item.props, control.path));
        if (value === undefined) continue;
        const changes = (holder: DocNode) => {
          const other = { ...item, props: withValue(item.props, control.path, value) };
          const children = holder.children.map((one) => (one === item ? other : one));
          return JSON.stringify(whole({ ...holder, children })) !== JSON.stringify(whole(holder));
        };
        const shown = isPartShown(item, control.path, off);
        if (changes(all) || !shown)
          expect(shown, `${own.label}: ${control.label}`).toBe(changes(off));
      }
    }
  });

  it.each(parts)("mentions nothing of “%s” while it is off, and forgets nothing", (part) => {
    const node = without(all, part);
    for (const { path } of textsOf(kind.type).filter((text) => partOf(node, text.path) === part)) {
      const props = withValue(node.props, path, line(tag("contact:gone")) as unknown as Json);
      const hidden = { ...node, props };
      const said = mentionsIn(emailOf([hidden])).map((one) => one.what === "tag" && one.tag.ref);
      expect(said).not.toContain("contact:gone");
      // It is named all the same: what is deleted in the library would be missing once the part is on.
      expect(refsIn(hidden)).toContain("contact:gone");
      expect(
        runChecks(emailOf([hidden]), around, new Map()).filter(({ check }) => check === "fallback"),
      ).toEqual([]);
    }
  });
});

it("items that a part has switched off are neither looked at nor named", () => {
  const masthead = createBlock("masthead", id);
  const on = { ...masthead, props: withValue(masthead.props, ["parts", "links"], true) };
  expect(shownChildren(on)).toHaveLength(2);
  expect(shownChildren(masthead)).toEqual([]);
  const links = (node: DocNode) =>
    runChecks(emailOf([node]), around, new Map()).filter(
      ({ at }) => at !== node.id && masthead.children.some((child) => child.id === at),
    );
  expect(links(on)).toHaveLength(2);
  expect(links(masthead)).toEqual([]);
});
