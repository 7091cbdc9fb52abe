/** Over the sheets while they show an earlier state: which, and what can be done with it. */

import { theOf } from "#core/blocks/names.ts";
import { Button } from "../../ui/button.tsx";
import { pieceOf } from "../selection/chosen.ts";
import { useSelection } from "../selection/selection.ts";
import { useLookBack, useLooking } from "./looking.ts";

export function LookingNote() {
  const history = useLookBack();
  const { looking } = useLooking("looking");
  const { selected } = useSelection("selected");
  if (!looking) return null;
  const piece = selected && selected !== "envelope" ? pieceOf(looking.doc, selected) : null;
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-2 border-b border-saffron bg-saffron-soft px-3.5 py-1.5 text-small"
    >
      <span className="min-w-0 flex-1">
        <strong>As it was then.</strong> {looking.words}
        {!piece && (
          <span className="text-ink-2"> Select a block to take it out of this state.</span>
        )}
      </span>
      {piece && <Button onClick={() => history.bring(piece.id)}>Bring back {theOf(piece)}</Button>}
      <Button primary onClick={history.goBack}>
        Go back to this
      </Button>
      <Button onClick={history.backToNow}>Show it as it is now</Button>
    </div>
  );
}
