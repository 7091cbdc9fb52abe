/** What a form showed of each field, for the server to see what somebody else has changed since. */
import { useState } from "react";

type Texts = Readonly<Record<string, string>>;

/** `shown`: as the form began, later changes of it do not count; `seen`: what an answer has told since. */
export function Seen({
  fields,
  shown,
  seen,
}: {
  fields: readonly string[];
  shown: Texts;
  seen: Texts | null;
}) {
  const [known, setKnown] = useState({ texts: shown, seen });
  if (known.seen !== seen) setKnown({ texts: { ...known.texts, ...seen }, seen });
  return fields.map((id) => (
    <input key={id} type="hidden" name={`was.${id}`} value={known.texts[id] ?? ""} />
  ));
}
