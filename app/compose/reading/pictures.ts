/** Pictures that an email comes to mention without this page having put them in: others did, or undo, or an earlier state. */
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { picturesIn } from "#core/mentions/index.ts";
import { answerTo } from "../../ask.ts";
import type { Readable } from "../shared.ts";
import type { ReadingState } from "./reading.ts";

/** How long the email rests before it is looked at, ms. */
const REST = 150;

/** Asks for what is missing whenever the email has changed, and hands it to `add`; gives the way to stop. */
export function followPictures(
  store: Readable<Pick<ReadingState, "doc" | "surroundings">>,
  add: (pictures: readonly Picture[]) => void,
): () => void {
  /** Those that are asked for, or are not there. */
  const asked = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const look = async () => {
    const { doc, surroundings } = store.getState();
    const missing = [...picturesIn(doc.root, surroundings.derived)]
      .filter((id) => id !== "" && !surroundings.pictures.has(id) && !asked.has(id))
      .slice(0, LIMITS.picturesPerPage);
    if (missing.length === 0) return;
    for (const id of missing) asked.add(id);
    const answer = await answerTo<{ pictures: Picture[] }>(`/library/pictures?ids=${missing}`);
    // Without an answer they are asked for again with the next change.
    if (!answer) for (const id of missing) asked.delete(id);
    else if (answer.pictures.length > 0) add(answer.pictures);
  };
  const unsubscribe = store.subscribe(({ doc }, before) => {
    if (doc === before.doc) return;
    clearTimeout(timer);
    timer = setTimeout(() => void look(), REST);
  });
  return () => {
    clearTimeout(timer);
    unsubscribe();
  };
}
