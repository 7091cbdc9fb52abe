/** Keeps what was done with an image: beside it, or in its place. */
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Picture } from "#core/kinds/kind.ts";
import type { PictureRecipe } from "#core/pictures/recipe.ts";
import type { LibraryPicture } from "#server/store/pictures.ts";
import { ask, wordsOf } from "../ask.ts";
import { Button, Buttonlike } from "../ui/button.tsx";
import { Confirm } from "../ui/confirm.tsx";
import { useToast } from "../ui/toast.tsx";
import { counted } from "../ui/words.ts";
import { leftIn, type Replaced, replacedIn } from "./replaced.ts";

export function Keeping({
  recipe,
  changed,
  picture,
  places,
}: {
  recipe: PictureRecipe | null;
  changed: boolean;
  picture: LibraryPicture;
  /** In how many places it stands. */
  places: number;
}) {
  const navigate = useNavigate();
  const say = useToast();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const keep = async (as: "copy" | "place") => {
    setBusy(true);
    setProblem(null);
    const reply = await ask<{ picture: Picture; replaced: Replaced | null }>(
      `/library/image/${picture.id}/make`,
      { json: { recipe, as, seen: picture.replacedBy } },
    );
    setBusy(false);
    if (reply.kind !== "ok") return setProblem(wordsOf(reply, "The image was not kept."));
    const { replaced, picture: made } = reply.body;
    say(replaced ? [replacedIn(replaced), ...leftIn(replaced)].join(" ") : "Saved in the library.");
    void navigate(`/library/image/${made.id}`);
  };
  const idle = !recipe || !changed || busy;
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      <Button primary disabled={idle} onClick={() => void keep("copy")}>
        {busy ? "Saving…" : "Save as a copy"}
      </Button>
      {places > 0 && (
        <Confirm
          title="Replace the image?"
          about={`It is used in ${counted(places, "place")}, which will all show what you have made. Emails that are sent stay as they are.`}
          act="Replace it"
          onAct={() => void keep("place")}
          trigger={
            <Buttonlike type="button" disabled={idle}>
              Replace the original
            </Buttonlike>
          }
        />
      )}
      {problem && (
        <p role="alert" className="text-small font-semibold text-rust">
          {problem}
        </p>
      )}
    </div>
  );
}
