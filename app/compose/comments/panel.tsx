/** The comments on the email, in the place of the settings. */
import { X } from "lucide-react";
import { useEffect, useMemo } from "react";
import { find } from "#core/document/index.ts";
import { Comments } from "../../review/comments.tsx";
import { placesIn } from "../../review/shown.ts";
import { IconButton } from "../../ui/button.tsx";
import type { PanelProps } from "../panels/panel.ts";
import { useSelecting, useSelection } from "../selection/selection.ts";
import { useEmail } from "../session/session.ts";
import { useComments, useKeptComments } from "./kept.ts";

export default function CommentsPanel({ onClose }: PanelProps) {
  const kept = useKeptComments();
  const { comments } = useComments("comments");
  const { doc } = useEmail("doc");
  const { select } = useSelecting();
  const { selected } = useSelection("selected");
  const places = useMemo(() => placesIn(doc), [doc]);
  useEffect(() => void kept.read(), [kept]);
  const about = places.some(({ value }) => value === selected) ? selected! : "";
  return (
    <aside
      aria-label="Comments"
      className="flex min-h-0 flex-col gap-2 overflow-y-auto border-l p-3.5 pb-8"
    >
      <div className="flex justify-end">
        <IconButton label="Close the comments" onClick={onClose}>
          <X />
        </IconButton>
      </div>
      {comments === null ? (
        <p className="text-small text-ink-3">One moment…</p>
      ) : (
        <Comments
          comments={comments}
          places={places}
          about={about}
          onAbout={(node) => select(node || "envelope")}
          path={kept.path}
          onSaid={() => void kept.read()}
          onShow={(node) => find(doc, node) && select(node)}
        />
      )}
    </aside>
  );
}
