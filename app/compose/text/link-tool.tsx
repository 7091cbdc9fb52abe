/** The link of the selected words. */
import { Link2 } from "lucide-react";
import { useState } from "react";
import { isEmptyLink, type Link, line } from "#core/text/index.ts";
import { Button } from "../../ui/button.tsx";
import type { TextEditor } from "./editor.ts";
import { linkAt, setLink } from "./formatting.ts";
import { checkedLink, LinkFields } from "./link-fields.tsx";
import { ToolPopover } from "./tool-popover.tsx";

const START: Link = { kind: "web", address: line() };

/** The link of the words under the hands, opened by its button or from outside. */
export function LinkTool({
  editor,
  open,
  onOpen,
}: {
  editor: TextEditor;
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  const current = linkAt(editor.view.state);
  const [draft, setDraft] = useState<Link>(START);
  const [problem, setProblem] = useState<string | null>(null);
  // Opened from outside too: it begins with the link that is there.
  const [wasOpen, setWasOpen] = useState(false);
  if (open !== wasOpen) {
    setWasOpen(open);
    setProblem(null);
    if (open) setDraft((current?.attrs.to as Link | undefined) ?? START);
  }
  const change = onOpen;
  const apply = (to: Link | null) => {
    setLink(to)(editor.view.state, editor.view.dispatch);
    change(false);
    editor.view.focus();
  };
  const none = editor.view.state.selection.empty;
  return (
    <ToolPopover
      label="Link"
      on={current !== null}
      icon={<Link2 />}
      open={open}
      onOpenChange={change}
      focusOn="[role=textbox]"
    >
      <form
        className="flex w-72 flex-col gap-2 p-3"
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          const checked = checkedLink(draft);
          const empty = isEmptyLink(draft);
          setProblem(checked.problem ?? (empty ? "Write where it leads." : null));
          if (checked.link && !empty) apply(checked.link);
        }}
      >
        {none && <p className="text-small text-ink-2">Select some text first.</p>}
        <LinkFields
          label="Link to"
          link={draft}
          problem={problem}
          without={["none"]}
          // What was wrong stays until it is handed in again: nothing moves away from under the pointer.
          onLink={(next) => {
            setDraft(next);
            if (next.kind !== draft.kind) setProblem(null);
          }}
        />
        <div className="flex gap-2">
          <Button type="submit" primary disabled={none}>
            Link the text
          </Button>
          {current && <Button onClick={() => apply(null)}>Remove the link</Button>}
        </div>
      </form>
    </ToolPopover>
  );
}
