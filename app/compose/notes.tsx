/** What has to be said over the sheets: why nothing can be changed, what is not saved, what does not go out. */
import type { Trouble } from "#core/blocks/read.ts";
import { DraftBar } from "../draft/draft-bar.tsx";
import { Button } from "../ui/button.tsx";
import { useLookBack, useLooking } from "./history/looking.ts";
import { LookingNote } from "./history/looking-note.tsx";
import { ClashNote } from "./session/clash-note.tsx";
import { FixedNote, SentNote } from "./session/fixed-note.tsx";
import { useEmail, useSession } from "./session/session.ts";
import { SignedOut } from "./session/signed-out.tsx";
import { TroubleNote } from "./trouble.tsx";

/** How far the draft is from what goes out. */
function Draft() {
  const session = useSession();
  const { savedAt } = useEmail("savedAt");
  const { look } = useLookBack();
  return (
    <DraftBar campaign={session.campaign} changed={savedAt} settled={session.finish}>
      {({ seq }) =>
        seq !== null && (
          <Button onClick={() => void look(seq, "This is what goes out.")}>
            Show what goes out
          </Button>
        )
      }
    </DraftBar>
  );
}

export function Notes({ trouble, sent }: { trouble: Trouble | null; sent: string | null }) {
  const { saving, clashes } = useEmail("saving", "clashes");
  const looking = useLooking((state) => state.looking !== null);
  return (
    <>
      <LookingNote />
      {trouble && <TroubleNote trouble={trouble} />}
      {sent && <SentNote reason={sent} />}
      {saving === "fixed" && <FixedNote />}
      {saving === "signedOut" && <SignedOut />}
      <ClashNote clashes={clashes} />
      {!looking && <Draft />}
    </>
  );
}
