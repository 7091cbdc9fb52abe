import { textsOf } from "../blocks/index.ts";
import { valueAt, walk } from "../document/index.ts";
import { isEmptyLink, type Link, type TextJson } from "../text/index.ts";
import type { Check } from "./check.ts";

function emptyLinks(text: TextJson): string[] {
  const found: string[] = [];
  const visit = (node: TextJson) => {
    const to = node.marks?.find((mark) => mark.type === "link")?.attrs?.to as Link | undefined;
    if (to && isEmptyLink(to)) found.push(node.text ?? "…");
    node.content?.forEach(visit);
  };
  visit(text);
  return found;
}

/** Links in running text that lead nowhere; blocks with a link of their own check it themselves. */
export const emptyTextLinks: Check = {
  id: "empty-link",
  run: ({ doc }) =>
    [...walk(doc.root)].flatMap((node) =>
      textsOf(node.type).flatMap(({ path }) => {
        const text = valueAt(node.props, path) as unknown as TextJson;
        return emptyLinks(text).map((words) => ({
          check: "empty-link",
          severity: "look" as const,
          message: `The link “${words}” leads nowhere`,
          detail: "Give it an address, or take the link away.",
          at: node.id,
        }));
      }),
    ),
};
