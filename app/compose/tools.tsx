/** The composer's part of the top bar: saved state, who else is here, undo, redo and history. */
import { History as HistoryIcon, MessageSquare, Redo2, Search, Undo2 } from "lucide-react";
import { createPortal } from "react-dom";
import { IconButton } from "../ui/button.tsx";
import { useComments } from "./comments/kept.ts";
import { useOpenPanels, usePanels } from "./panels/open.ts";
import { type SessionState, useEmail, useSession } from "./session/session.ts";

const STATES = {
  saving: "Saving…",
  waiting: "No connection; will be saved",
  signedOut: "Not saved: signed out",
  fixed: "Not saved: it is being sent",
} as const;

function savedWords({ saving, savedAt }: Pick<SessionState, "saving" | "savedAt">): string {
  if (saving !== "saved") return STATES[saving];
  if (!savedAt) return "All saved";
  return `Saved ${savedAt.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
}

function Saved() {
  const { saving, savedAt } = useEmail("saving", "savedAt");
  return (
    <span
      role="status"
      className="mr-1 text-small whitespace-nowrap text-ink-3"
      data-saving={saving}
    >
      {savedWords({ saving, savedAt })}
    </span>
  );
}

function CommentsTool() {
  const panels = usePanels();
  const { comments } = useOpenPanels("comments");
  const open = useComments(({ comments }) => comments?.filter((one) => !one.resolved).length ?? 0);
  return (
    <IconButton
      label={open > 0 ? `Comments, ${open} open` : "Comments"}
      aria-pressed={comments === true}
      onClick={() => (comments ? panels.close("comments") : panels.open("comments", true))}
      className={comments ? "bg-plum-soft text-plum" : ""}
    >
      <MessageSquare className={open > 0 ? "fill-saffron-soft" : undefined} />
    </IconButton>
  );
}

export function Tools({ place }: { place: HTMLElement | null }) {
  const session = useSession();
  const panels = usePanels();
  const { others, can } = useEmail("others", "can");
  const { history } = useOpenPanels("history");
  if (!place) return null;
  return createPortal(
    <>
      <Saved />
      {others.length > 0 && (
        <ul aria-label="Also here" className="mr-1 flex gap-1">
          {others.map(({ tab, name }) => (
            <li
              key={tab}
              title={`${name} has this email open`}
              className="flex h-6 max-w-28 items-center rounded-full border border-ink-3 px-2 text-fine font-semibold text-ink-2"
            >
              <span className="truncate">{name}</span>
            </li>
          ))}
        </ul>
      )}
      <CommentsTool />
      <IconButton label="Find and replace" onClick={() => panels.open("find", true)}>
        <Search />
      </IconButton>
      <IconButton label="Undo" disabled={!can.undo} onClick={() => session.undo()}>
        <Undo2 />
      </IconButton>
      <IconButton label="Redo" disabled={!can.redo} onClick={() => session.redo()}>
        <Redo2 />
      </IconButton>
      <IconButton
        label="History"
        aria-pressed={history === true}
        onClick={() => (history ? panels.close("history") : panels.open("history", true))}
        className={history ? "bg-plum-soft text-plum" : ""}
      >
        <HistoryIcon />
      </IconButton>
    </>,
    place,
  );
}
