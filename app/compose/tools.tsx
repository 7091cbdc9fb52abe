/** The composer's part of the top bar: saved state, undo and redo. */
import { Redo2, Undo2 } from "lucide-react";
import { createPortal } from "react-dom";
import { IconButton } from "../ui/button.tsx";
import type { Session, SessionState } from "./session.ts";

function savedWords({ saving, savedAt }: SessionState): string {
  if (saving === "saving") return "Saving…";
  if (saving === "waiting") return "No connection; will be saved";
  if (!savedAt) return "All saved";
  return `Saved ${savedAt.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
}

export function Tools({
  place,
  state,
  session,
}: {
  place: HTMLElement | null;
  state: SessionState;
  session: Session;
}) {
  if (!place) return null;
  return createPortal(
    <>
      <span role="status" className="mr-1 text-[12px] text-ink-3" data-saving={state.saving}>
        {savedWords(state)}
      </span>
      <IconButton label="Undo" disabled={!state.can.undo} onClick={() => void session.undo()}>
        <Undo2 />
      </IconButton>
      <IconButton label="Redo" disabled={!state.can.redo} onClick={() => void session.redo()}>
        <Redo2 />
      </IconButton>
    </>,
    place,
  );
}
