/** Laying the items of a block out anew: the blocks of another design in place of those that stand. */
import { blockKind } from "#core/blocks/index.ts";
import type { DocNode, SimpleEdit } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import { useCommands } from "../doing/commands.ts";
import { group } from "../doing/doing.ts";
import { newNodeId } from "../doing/ids.ts";

/** The edits that give a block of items a design of its kind, as one; nothing where there is none of that id. */
export function designEdits(node: DocNode, id: string): SimpleEdit[] {
  const design = blockKind(node.type)?.designs?.find((one) => one.id === id);
  if (!design) return [];
  const blocks = design.blocks(newNodeId);
  return [
    ...node.children.map((child): SimpleEdit => ({ type: "remove", node: child.id })),
    ...blocks.map(
      (block, i): SimpleEdit => ({
        ...{ type: "insert", parent: node.id, node: block },
        after: blocks[i - 1]?.id ?? null,
      }),
    ),
    ...Object.entries(design.props).map(
      ([name, value]): SimpleEdit => ({
        ...{ type: "set", node: node.id, path: [name], value: value as Json },
      }),
    ),
  ];
}

export function useDesigns(node: DocNode): (id: string) => void {
  const { edit } = useCommands();
  return (id) => {
    const edits = designEdits(node, id);
    if (edits.length > 0) edit(group(edits));
  };
}
