/** The writing helper that ships: by rules, without asking anybody. */
import type { WritingHelper } from "#core/writing/helper.ts";
import { adviseSubject } from "#core/writing/subject-advice.ts";
import { adviseText } from "#core/writing/text-advice.ts";

export const createLocalHelper = (): WritingHelper => ({
  text: async (paragraphs, lang) => adviseText(paragraphs, lang),
  subject: async (given, lang) => adviseSubject(given, lang),
});
