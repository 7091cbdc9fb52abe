import { ARTICLE, articleChanges, type LinkedItem } from "../blocks/article.ts";
import { itemRef, toldItem } from "../items/index.ts";
import type { Check } from "./check.ts";

/** Articles whose items have changed at their source since they were taken. */
export const articles: Check = {
  id: "articles",
  run: ({ nodes, surroundings }) =>
    nodes.flatMap(({ node }) => {
      const item = node.type === ARTICLE ? (node.props.item as unknown as LinkedItem | null) : null;
      const now = item && surroundings.items?.get(itemRef(item.source, item.key));
      const changes = item && now ? articleChanges(item, toldItem(now)) : [];
      if (changes.length === 0) return [];
      return [
        {
          check: "articles",
          severity: "look" as const,
          message: "An article has changed at its source",
          detail: changes.join(" "),
          at: node.id,
          in: ["item"],
        },
      ];
    }),
};
