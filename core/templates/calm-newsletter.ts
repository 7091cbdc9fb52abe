/** A calm newsletter: a masthead, an opening with an image, two things side by side, a footer. */
import {
  createBand,
  createBlock,
  createColumn,
  createDocument,
  nodeKind,
} from "../blocks/index.ts";
import { withPlaceholders } from "../blocks/placeholders.ts";
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import { box, pad } from "../kinds/common.ts";
import { doc, line, phrase } from "../text/index.ts";

const counter = (prefix: string) => {
  let n = 0;
  return () => `${prefix}${++n}`;
};

const bandOf = (id: () => string, name: string, blocks: DocNode[], props = {}) =>
  createBand(id, [createColumn(id, blocks)], { name, ...props });

/** What a template says is there to be written over, where a block's own words are. */
const toBeWritten = (node: DocNode): DocNode => ({
  ...node,
  props: withPlaceholders(node.props, nodeKind(node.type)?.examples ?? []),
  children: node.children.map(toBeWritten),
});

export function calmNewsletter(): EmailDocument {
  const id = counter("t");
  const bands = [
    bandOf(
      id,
      "Masthead",
      [createBlock("masthead", id, { name: line("YOUR NAME HERE"), colour: "onAccent" })],
      { background: "accent" },
    ),
    bandOf(id, "Opening", [
      createBlock("image", id, {
        box: box(pad(0, 0), "center"),
      }),
      createBlock("heading", id, { words: phrase("What this email is about") }),
      createBlock("text", id),
      createBlock("button", id),
    ]),
    createBand(
      id,
      ["One thing", "Another thing"].map((title) =>
        createColumn(id, [
          createBlock("heading", id, {
            words: phrase(title),
            level: 2,
            type: { ...PLAIN_TYPE, size: 18 },
          }),
          createBlock("text", id, { words: doc("Two sentences about it, no more.") }),
        ]),
      ),
      { name: "Two things" },
    ),
    bandOf(id, "Footer", [createBlock("divider", id), createBlock("footer", id)]),
  ];
  return createDocument(bands.map(toBeWritten), {
    envelope: {
      fromName: line(),
      fromAddress: "",
      replyTo: "",
      subject: line(),
      preview: line(),
    },
  });
}
