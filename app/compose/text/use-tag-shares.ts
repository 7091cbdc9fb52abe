/** How many of the campaign's readers have a value for each merge tag, asked for when it is wanted. */
import { useEffect, useState } from "react";
import type { TagShare } from "#server/store/tag-values.ts";
import { answerTo } from "../../ask.ts";

export interface TagShares {
  readonly of: number;
  readonly byRef: ReadonlyMap<string, TagShare>;
}

/** What was asked for already: counting over a large audience is not done at every opening of the picker. */
const asked = new Map<string, Promise<TagShares>>();

async function read(campaign: string): Promise<TagShares> {
  const path = `/people/tags?campaign=${campaign}`;
  const answer = await answerTo<{ of: number; tags: TagShare[] }>(path);
  if (!answer) throw new Error("no answer");
  const { of, tags } = answer;
  return { of, byRef: new Map(tags.map((tag) => [tag.ref, tag])) };
}

/** As they were when they were first wanted on this page; null until then, and without a line. */
export function useTagShares(campaign: string): TagShares | null {
  const [shares, setShares] = useState<TagShares | null>(null);
  useEffect(() => {
    let gone = false;
    const answer = asked.get(campaign) ?? read(campaign);
    asked.set(campaign, answer);
    answer.then(
      (known) => gone || setShares(known),
      () => asked.delete(campaign),
    );
    return () => {
      gone = true;
    };
  }, [campaign]);
  return shares;
}
