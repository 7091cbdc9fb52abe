import { type ReactNode, useState } from "react";
import { hexOf, type Theme } from "#core/theme/theme.ts";
import { Button } from "../../ui/button.tsx";
import { Field, INPUT } from "../../ui/field.tsx";
import { useReading } from "../reading/reading.ts";
import { RoleSwatches } from "../settings/controls/role-swatches.tsx";
import type { TextEditor } from "./editor.ts";
import { colourAt, setColour } from "./formatting.ts";
import { ToolPopover } from "./tool-popover.tsx";

export function ColourTool({
  editor,
  name,
  label,
  onOpen,
  children,
}: {
  editor: TextEditor;
  name: "colour" | "ground";
  label: string;
  onOpen: (open: boolean) => void;
  children: ReactNode;
}) {
  const { doc } = useReading("doc");
  const theme = doc.root.props.theme as unknown as Theme;
  const [open, setOpen] = useState(false);
  const [hex, setHex] = useState("");
  const current = colourAt(editor.view.state, name);
  const wrong = hex !== "" && hexOf(hex) === null;
  const change = (next: boolean) => {
    setHex(current?.startsWith("#") ? current : "");
    setOpen(next);
    onOpen(next);
  };
  const take = (to: string | null) => {
    setColour(name, to)(editor.view.state, editor.view.dispatch);
    change(false);
    editor.view.focus();
  };
  return (
    <ToolPopover
      label={label}
      on={current !== null}
      icon={children}
      open={open}
      onOpenChange={change}
    >
      <form
        className="flex w-72 flex-col gap-2.5 p-3"
        onSubmit={(event) => {
          event.preventDefault();
          const made = hexOf(hex);
          if (made) take(made);
        }}
      >
        {editor.view.state.selection.empty && (
          <p className="text-small text-ink-2">Select some text first.</p>
        )}
        <div className="flex flex-wrap gap-1.5" role="group" aria-label={label}>
          <RoleSwatches theme={theme} value={current} large onChoose={take} />
        </div>
        <Field label="Another" errors={wrong ? ["Three or six digits, from 0 to f."] : null}>
          {(ids) => (
            <input
              {...ids}
              value={hex}
              placeholder="#1f3d2e"
              maxLength={12}
              className={INPUT}
              onChange={(event) => setHex(event.target.value)}
            />
          )}
        </Field>
        <div className="flex gap-2">
          <Button type="submit" primary disabled={wrong || hex === ""}>
            Use this colour
          </Button>
          {current && <Button onClick={() => take(null)}>Remove the colour</Button>}
        </div>
      </form>
    </ToolPopover>
  );
}
