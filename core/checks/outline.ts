import { titlesOf } from "../blocks/titles.ts";
import { wordsOf } from "../text/index.ts";
import type { Check } from "./check.ts";

/**
 * Headings that skip a level: whoever listens and jumps from one to the next believes to have missed something
 * (WCAG 2.2, 1.3.1 and 2.4.6).
 */
export const outline: Check = {
  id: "outline",
  run({ doc }) {
    const titles = titlesOf(doc.root);
    return titles.flatMap(({ node, level, words }, i) => {
      const before = titles[i - 1]?.level ?? 0;
      if (level <= before + 1) return [];
      return [
        {
          check: "outline",
          severity: "look" as const,
          message: `“${wordsOf(words)}” skips a level`,
          detail:
            before === 0
              ? `It is the first heading, and of level ${level}: level 1 fits.`
              : `It is of level ${level} after one of level ${before}: level ${before + 1} fits.`,
          at: node.id,
          in: ["level"],
        },
      ];
    });
  },
};
