/**
 * What helps with writing: it proposes, the person takes or leaves. The one that ships works by rules; a
 * language service can stand behind the same interface. A helper never adds facts.
 */

/** Other words for a piece of a paragraph. */
export interface Proposal {
  /** Which of the paragraphs given, and from which character to which. */
  readonly paragraph: number;
  readonly from: number;
  readonly to: number;
  readonly before: string;
  readonly after: string;
  /** Why, in a few words. */
  readonly reason: string;
}

/** Something to know about a piece of a paragraph, without other words for it. */
export interface Remark {
  readonly paragraph: number;
  readonly words: string;
  readonly reason: string;
}

export interface Readability {
  /** Reading ease, 0–100: the higher, the easier. */
  readonly ease: number;
  readonly words: number;
  readonly sentences: number;
}

export interface TextAdvice {
  /** Null where there are too few words to tell. */
  readonly readability: Readability | null;
  readonly proposals: readonly Proposal[];
  readonly remarks: readonly Remark[];
}

/** A subject of one's own that went out before. */
export interface EarlierSubject {
  readonly subject: string;
  /** Share of the readers that opened it, 0–1. */
  readonly opened: number;
  readonly readers: number;
}

export interface SubjectAdvice {
  /** Characters, and how many of them a small phone shows. */
  readonly length: number;
  readonly shown: number;
  readonly remarks: readonly string[];
  /** Earlier subjects like it, the most alike first, with how they were opened. */
  readonly alike: readonly EarlierSubject[];
  /** What earlier subjects of one kind did against the others; one sentence each. */
  readonly comparisons: readonly string[];
}

export interface WritingHelper {
  text(paragraphs: readonly string[], lang: string): Promise<TextAdvice>;
  subject(
    given: { subject: string; preview: string; earlier: readonly EarlierSubject[] },
    lang: string,
  ): Promise<SubjectAdvice>;
}
