import { find } from "../document/index.ts";
import { isEmptyLink } from "../text/index.ts";
import { type Check, isInText } from "./check.ts";

/** Links to a part of the email that was taken out since. */
export const lostPlaces: Check = {
  id: "lost-place",
  run: ({ doc, mentions }) =>
    mentions.flatMap((mention) => {
      if (mention.what !== "link" || mention.to.kind !== "place") return [];
      const place = mention.to.node;
      if (place === "" || find(doc, place)) return [];
      return [
        {
          check: "lost-place",
          severity: "look" as const,
          message: "A link leads to a part that is gone",
          detail: "Choose another place in this email, or take the link away.",
          at: mention.node.id,
          in: mention.path,
        },
      ];
    }),
};

/** Links in running text that lead nowhere; blocks with a link of their own check it themselves. */
export const emptyTextLinks: Check = {
  id: "empty-link",
  run: ({ mentions }) =>
    mentions.flatMap((mention) => {
      if (mention.what !== "link" || !isEmptyLink(mention.to)) return [];
      if (!isInText(mention)) return [];
      return [
        {
          check: "empty-link",
          severity: "look" as const,
          message: `The link “${mention.words}” leads nowhere`,
          detail: "Give it an address, or take the link away.",
          at: mention.node.id,
          in: mention.path,
        },
      ];
    }),
};
