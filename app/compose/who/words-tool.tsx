/** Who sees the selected words: a rule, and other words that the others see instead. */
import { UserRoundCheck } from "lucide-react";
import { useState } from "react";
import type { Rule } from "#core/rules/index.ts";
import type { Seen } from "#core/text/index.ts";
import { RuleDialog } from "../../rules/rule-dialog.tsx";
import { ruleWords } from "../../rules/words.ts";
import { Button } from "../../ui/button.tsx";
import { newNodeId } from "../doing/ids.ts";
import { useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import type { TextEditor } from "../text/editor.ts";
import { addOtherWords, seenAt, setSeen } from "../text/seen-words.ts";
import { ToolPopover } from "../text/tool-popover.tsx";

export function WordsTool({
  editor,
  open,
  onOpen,
}: {
  editor: TextEditor;
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  const { campaign } = useSession();
  const { whoSees } = useReading("whoSees");
  const { state } = editor.view;
  const current = seenAt(state);
  const none = state.selection.empty && current === null;
  const apply = (seen: Seen | null) => {
    setSeen(seen)(editor.view.state, editor.view.dispatch);
    onOpen(false);
    editor.view.focus();
  };
  // The rule is written in a window of its own, for which the small one makes room.
  const [ruling, setRuling] = useState(false);
  const ruled = (rule: Rule) => apply({ seenBy: rule, chain: current?.chain ?? null });
  return (
    <>
      {ruling && (
        <RuleDialog
          title="Who sees this text"
          rule={current?.seenBy ?? null}
          use="Show the text to them"
          campaign={campaign}
          onUse={ruled}
          open
          keepFocus
          onOpenChange={(next) => {
            setRuling(next);
            if (!next) onOpen(false);
          }}
        />
      )}
      <ToolPopover
        label="Who sees this text"
        on={current !== null}
        icon={<UserRoundCheck />}
        open={open && !ruling}
        onOpenChange={onOpen}
      >
        <div className="flex w-72 flex-col gap-2 p-3">
          {none ? (
            <p className="text-small text-ink-2">Select some text first.</p>
          ) : (
            <>
              <p className="text-small">
                {current ? (
                  <>
                    <span className="text-ink-2">Seen by: </span>
                    {ruleWords(current.seenBy, whoSees, current.chain !== null)}
                  </>
                ) : (
                  "Everybody sees this text."
                )}
              </p>
              <div className="flex flex-wrap gap-2">
                <Button primary={!current} onClick={() => setRuling(true)}>
                  {current?.seenBy ? "Change the rule" : "Only some see them…"}
                </Button>
                {current && (
                  <>
                    <Button
                      onClick={() => {
                        addOtherWords(newNodeId)(editor.view.state, editor.view.dispatch);
                        onOpen(false);
                        editor.view.focus();
                      }}
                    >
                      Other words for the rest…
                    </Button>
                    <Button onClick={() => apply(null)}>Everybody</Button>
                  </>
                )}
              </div>
            </>
          )}
        </div>
      </ToolPopover>
    </>
  );
}
