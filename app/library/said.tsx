/** What a derived tag says to somebody. */
import type { ReactNode } from "react";
import { alternativesOf, type DerivedTag, type DerivedValue } from "#core/derived/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { type Reader, type TagContext, tagWords } from "#core/merge/index.ts";
import { isShownTo, type Tag, type TextJson, tag } from "#core/text/index.ts";

const MARKS: Readonly<Record<string, (inner: ReactNode) => ReactNode>> = {
  strong: (inner) => <strong>{inner}</strong>,
  em: (inner) => <em>{inner}</em>,
  underline: (inner) => <u>{inner}</u>,
  link: (inner) => <span className="text-plum underline">{inner}</span>,
};

function Rich({ words, write }: { words: TextJson; write: (tag: Tag) => string }) {
  return (words.content ?? []).map((part, i) => {
    let shown: ReactNode = part.type === "tag" ? write(part.attrs as unknown as Tag) : part.text;
    if (part.type === "hard_break") shown = <br />;
    for (const { type } of part.marks ?? []) shown = MARKS[type]?.(shown) ?? shown;
    return <span key={i}>{shown}</span>;
  });
}

export function Said({
  made,
  reader,
  context,
  pictures,
}: {
  made: DerivedTag;
  reader: Reader;
  context: TagContext;
  pictures: readonly Picture[];
}) {
  const words = (ref: string) => tagWords(tag(`derived:${made.id}${ref}`), reader, context);
  const value: DerivedValue | undefined = alternativesOf(made).find(({ when }) =>
    isShownTo(when, context.conditions, reader.bits ?? ""),
  )?.value;
  const picture =
    value && "picture" in value ? pictures.find(({ id }) => id === value.picture) : undefined;
  return (
    <div className="font-display text-head leading-snug" data-tried>
      {made.kind === "picture" ? (
        <>
          {picture ? <img src={`/pictures/${picture.file}`} alt="" className="max-h-40" /> : "–"}
          <span className="mt-1 block font-sans text-small text-ink-2">
            {words("") || "No alt text"}
          </span>
        </>
      ) : made.kind === "rich" && value && "words" in value ? (
        <Rich words={value.words} write={(one) => tagWords(one, reader, context)} />
      ) : (
        words(made.kind === "sender" ? ".name" : "") || "–"
      )}
      {made.kind === "sender" && (
        <span className="block font-sans text-small text-ink-2">{words(".address") || "–"}</span>
      )}
    </div>
  );
}
