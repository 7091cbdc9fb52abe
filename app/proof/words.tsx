/** What a version is called: by what it has otherwise than the most frequent one. */

import { languageName } from "#core/languages/index.ts";
import type { WallPart, WallVersion } from "#server/campaigns/wall.ts";

/** Parts of its name. `several`: the email comes in more than one language. */
export function versionWords(
  version: Pick<WallVersion, "lang" | "differs">,
  { parts, usual, several }: { parts: readonly WallPart[]; usual: boolean; several: boolean },
): string {
  const words = version.differs.map(
    (one) => `${one > 0 ? "with" : "without"} ${parts[Math.abs(one) - 1]!.name}`,
  );
  return [
    ...(several ? [languageName(version.lang)] : []),
    ...(words.length ? words : usual ? ["the most frequent"] : []),
  ].join(" · ");
}

/** A share in per cent, as small as it is. */
export const share = (part: number, of: number): string => {
  const percent = (100 * part) / Math.max(1, of);
  return `${percent > 0 && percent < 1 ? "under 1" : Math.round(percent)} %`;
};

export function Spoken({ words }: { words: readonly { as: string | null; words: string }[] }) {
  return (
    <>
      {words.map((one, i) => (
        <span key={i} className="block min-h-[1lh]">
          {one.as && <span className="mr-1.5 font-semibold text-plum">{one.as}</span>}
          {one.words}
        </span>
      ))}
    </>
  );
}
