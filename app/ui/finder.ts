/** What a select searches where there can be any number of entries: the server's things with names. */
import { answerTo } from "../ask.ts";

export interface FoundOption {
  readonly value: string;
  readonly label: string;
}
export interface Finder {
  /** Those that fit what is typed; null where there was no answer. */
  find(words: string): Promise<FoundOption[] | null>;
  /** What a value is called: “(gone)” where nothing is, null where there was no answer. */
  nameOf(value: string): Promise<FoundOption | null>;
}

const GONE = "(gone)";

const finders = new Map<string, Finder>();

/** Things of a kind (`server/store/finding.ts`), `of` something where they stand in it; the same for the same. */
export function finderOf(what: string, of = ""): Finder {
  const key = JSON.stringify([what, of]);
  const made = finders.get(key) ?? makeFinder(what, of);
  finders.set(key, made);
  return made;
}

function makeFinder(what: string, of: string): Finder {
  const ask = async (query: Record<string, string>) => {
    const path = `/find/${what}?${new URLSearchParams({ ...query, of })}`;
    const answer = await answerTo<{ found: { id: string; name: string }[] }>(path);
    return answer?.found.map(({ id, name }) => ({ value: id, label: name })) ?? null;
  };
  return {
    find: (words) => ask({ words }),
    async nameOf(value) {
      const found = await ask({ id: value });
      return found && (found[0] ?? { value, label: GONE });
    },
  };
}
