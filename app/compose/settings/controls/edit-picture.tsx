/** Working on the image of a block without leaving the email: what is made stands in the block alone. */
import { lazy, Suspense, useState } from "react";
import type { Picture } from "#core/kinds/kind.ts";
import type { PictureRecipe } from "#core/pictures/recipe.ts";
import { answerTo, ask, NO_LINE, wordsOf } from "../../../ask.ts";
import type { Editable } from "../../../pictures/editor.tsx";
import { Button, Buttonlike } from "../../../ui/button.tsx";
import { Dialog } from "../../../ui/dialog.tsx";

// Few open it: the composer starts without it.
const PictureEditor = lazy(async () => ({
  default: (await import("../../../pictures/editor.tsx")).PictureEditor,
}));

interface Known {
  readonly original: Editable;
  readonly recipe: PictureRecipe | null;
}

export function EditPicture({
  picture,
  place,
  onMade,
}: {
  picture: Picture;
  /** The shape of its place, width by height; null where it has its own. */
  place: number | null;
  onMade: (picture: Picture) => void;
}) {
  const [open, setOpen] = useState(false);
  const [known, setKnown] = useState<Known | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const at = `/library/image/${picture.id}/make`;
  const show = async (next: boolean) => {
    setOpen(next);
    setKnown(null);
    setProblem(null);
    if (!next) return;
    const found = await answerTo<Known>(at);
    if (found) setKnown(found);
    else setProblem(NO_LINE);
  };
  const keep = async (recipe: PictureRecipe) => {
    setBusy(true);
    setProblem(null);
    const json = { recipe, as: "copy", seen: null };
    const reply = await ask<{ picture: Picture }>(at, { json });
    setBusy(false);
    if (reply.kind !== "ok") return setProblem(wordsOf(reply, "The image was not kept."));
    setOpen(false);
    onMade(reply.body.picture);
  };
  return (
    <Dialog
      title={picture.name}
      wide
      open={open}
      onOpenChange={(next) => void show(next)}
      trigger={<Buttonlike type="button">Edit</Buttonlike>}
    >
      {problem && (
        <p role="alert" className="mb-2 font-semibold text-rust">
          {problem}
        </p>
      )}
      <Suspense>
        {known && (
          <PictureEditor original={known.original} initial={known.recipe} place={place}>
            {(recipe, changed) => (
              <Button
                primary
                className="mt-3"
                disabled={!recipe || !changed || busy}
                onClick={() => recipe && void keep(recipe)}
              >
                {busy ? "Keeping…" : "Put it here"}
              </Button>
            )}
          </PictureEditor>
        )}
      </Suspense>
    </Dialog>
  );
}
